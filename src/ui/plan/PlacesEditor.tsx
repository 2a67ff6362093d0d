"use client";

import { Plus } from "lucide-react";
import { lengthInM, lengthShown, lengthText } from "@/core/numberStyle";
import { addPlace, changePlace, removePlace, setWay } from "@/core/edits/editPlan";
import { directWay, distanceBetween } from "@/core/site/distances";
import { shelterSchema, type Place, type Shelter, type Way } from "@/core/site/planSchema";
import { nameSchema } from "@/core/names";
import { TextForm } from "@/ui/parts/form/TextForm";
import { RemoveButton } from "@/ui/parts/form/RemoveButton";
import { NumberField } from "@/ui/parts/form/NumberField";
import { SelectField } from "@/ui/parts/form/SelectField";
import { TextField } from "@/ui/parts/form/TextField";
import { useNumberStyle } from "@/ui/parts/browser/useNumberStyle";
import { SHELTER_WORDS } from "@/ui/plan/planWords";
import type { PlanDesk } from "@/ui/plan/usePlan";

/** Rooms, outbuildings and walls, and how far it is between them: on foot, along a cable, through the air. */
export function PlacesEditor({ plan }: { plan: PlanDesk }) {
  const { site, edit } = plan;
  const pairs = site.places.flatMap((from, at) => site.places.slice(at + 1).map((to) => ({ from, to })));
  return (
    <div className="space-y-4">
      <section aria-label="Places">
        <h3 className="mb-1 font-bold">Places</h3>
        {site.places.length === 0 && (
          <p className="text-sm">
            Add the rooms, walls and outbuildings where something hangs or is worked at. Cable lengths, walking times
            and radio reach come from them.
          </p>
        )}
        <ul className="space-y-2">
          {site.places.map((place) => (
            <PlaceRow key={place.id} place={place} plan={plan} />
          ))}
        </ul>
        <div className="mt-2">
          <TextForm
            label="New place"
            schema={nameSchema}
            placeholder="Garage"
            send={
              <>
                <Plus size={18} aria-hidden />
                Add
              </>
            }
            onSend={(name) => edit(addPlace(name, "indoors"))}
          />
        </div>
      </section>
      {pairs.length > 0 && (
        <section aria-label="Ways">
          <h3 className="mb-1 font-bold">How far it is</h3>
          <ul className="space-y-2">
            {pairs.map(({ from, to }) => (
              <WayRow key={`${from.id} ${to.id}`} plan={plan} from={from} to={to} />
            ))}
          </ul>
        </section>
      )}
    </div>
  );
}

function PlaceRow({ place, plan }: { place: Place; plan: PlanDesk }) {
  const { edit } = plan;
  return (
    <li className="grid grid-cols-[1fr_1fr_auto] items-end gap-2">
      <TextField
        label="Name"
        value={place.name}
        schema={nameSchema}
        onValue={(next) => edit(changePlace(place.id, { name: next }), `${place.id} name`)}
      />
      <SelectField
        label="Weather"
        value={place.shelter}
        options={shelterSchema.options.map((value) => ({ value, label: SHELTER_WORDS[value] }))}
        onValue={(value) => edit(changePlace(place.id, { shelter: value as Shelter }))}
      />
      <RemoveButton label={`Remove ${place.name}`} onRemove={() => edit(removePlace(place.id))} />
    </li>
  );
}

function WayRow({ plan, from, to }: { plan: PlanDesk; from: Place; to: Place }) {
  const { site, edit } = plan;
  const style = useNumberStyle();
  const way = directWay(site, from.id, to.id);
  const over = way ? undefined : distanceBetween(site, from.id, to.id);
  const unit = style.lengths === "us" ? "ft" : "m";
  const set = (part: { walkMin?: number; cableM?: number | undefined; straightM?: number | undefined }) =>
    edit(
      setWay(from.id, to.id, { walkMin: way?.walkMin ?? 1, cableM: way?.cableM, straightM: way?.straightM, ...part }),
      `way ${from.id} ${to.id} ${Object.keys(part)[0]}`,
    );
  const inUnit = (lengthM: number | undefined) => (lengthM === undefined ? undefined : lengthShown(lengthM, style));
  const inM = (value: number | undefined) => (value === undefined || value === 0 ? undefined : lengthInM(value, style));
  return (
    <li className="rounded-md border border-base-300 bg-base-100 p-2">
      <p className="flex items-center justify-between gap-2 text-sm font-semibold">
        {from.name} to {to.name}
        {way && (
          <RemoveButton
            label={`Forget the way from ${from.name} to ${to.name}`}
            onRemove={() => edit(setWay(from.id, to.id, undefined))}
          />
        )}
      </p>
      {way ? (
        <WayFields way={way} set={set} unit={unit} inUnit={inUnit} inM={inM} />
      ) : (
        <p className="flex items-center gap-2 text-sm">
          <span className="min-w-0 flex-1">
            {over?.walkMin === undefined
              ? "not measured"
              : `over other places: ${over.walkMin} ` +
                `min${over.cableM === undefined ? "" : `, ${lengthText(over.cableM, style)} ` + "of cable"}`}
          </span>
          <button type="button" className="btn btn-sm press" onClick={() => set({ walkMin: over?.walkMin ?? 1 })}>
            Measure it
          </button>
        </p>
      )}
    </li>
  );
}

function WayFields({
  way,
  set,
  unit,
  inUnit,
  inM,
}: {
  way: Way;
  set: (part: { walkMin?: number; cableM?: number | undefined; straightM?: number | undefined }) => void;
  unit: "ft" | "m";
  inUnit: (lengthM: number | undefined) => number | undefined;
  inM: (value: number | undefined) => number | undefined;
}) {
  return (
    <div className="grid grid-cols-3 gap-2">
      <NumberField
        label="Walk"
        unit="min"
        optional
        value={way.walkMin}
        most={600}
        onValue={(walkMin) => set({ walkMin: walkMin ?? 0 })}
      />
      <NumberField
        label="Cable"
        unit={unit}
        optional
        value={inUnit(way.cableM)}
        most={30_000}
        onValue={(value) => set({ cableM: inM(value) })}
      />
      <NumberField
        label="Straight"
        unit={unit}
        optional
        value={inUnit(way.straightM)}
        most={30_000}
        onValue={(value) => set({ straightM: inM(value) })}
      />
    </div>
  );
}
