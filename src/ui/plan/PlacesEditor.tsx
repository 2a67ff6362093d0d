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
import { SHELTER_WORDS } from "@/ui/plan/kindWords";
import type { PlanDesk } from "@/ui/plan/usePlan";
import { PLAN_WORDS } from "@/ui/words/planWords";

/** Rooms, outbuildings and walls, and how far it is between them: on foot, along a cable, through the air. */
export function PlacesEditor({ plan }: { plan: PlanDesk }) {
  const { site, edit } = plan;
  const pairs = site.places.flatMap((from, at) => site.places.slice(at + 1).map((to) => ({ from, to })));
  return (
    <div className="space-y-4">
      <section aria-label={PLAN_WORDS.places}>
        <h3 className="mb-1 font-bold">{PLAN_WORDS.places}</h3>
        {site.places.length === 0 && <p className="text-sm">{PLAN_WORDS.addTheRoomsWallsAndOutbuildings}</p>}
        <ul className="space-y-2">
          {site.places.map((place) => (
            <PlaceRow key={place.id} place={place} plan={plan} />
          ))}
        </ul>
        <div className="mt-2">
          <TextForm
            label={PLAN_WORDS.newPlace}
            schema={nameSchema}
            placeholder={PLAN_WORDS.garage}
            send={
              <>
                <Plus size={18} aria-hidden />
                {PLAN_WORDS.add}
              </>
            }
            onSend={(name) => edit(addPlace(name, "indoors"))}
          />
        </div>
      </section>
      {pairs.length > 0 && (
        <section aria-label={PLAN_WORDS.ways}>
          <h3 className="mb-1 font-bold">{PLAN_WORDS.howFarItIs}</h3>
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
        label={PLAN_WORDS.name}
        value={place.name}
        schema={nameSchema}
        onValue={(next) => edit(changePlace(place.id, { name: next }), `${place.id} name`)}
      />
      <SelectField
        label={PLAN_WORDS.weather}
        value={place.shelter}
        options={shelterSchema.options.map((value) => ({ value, label: SHELTER_WORDS[value] }))}
        onValue={(value) => edit(changePlace(place.id, { shelter: value as Shelter }))}
      />
      <RemoveButton label={PLAN_WORDS.removeOf(place.name)} onRemove={() => edit(removePlace(place.id))} />
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
        {PLAN_WORDS.to(from.name, to.name)}
        {way && (
          <RemoveButton
            label={PLAN_WORDS.forgetTheWayFromTo(from.name, to.name)}
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
              ? PLAN_WORDS.notMeasured
              : PLAN_WORDS.overOtherPlacesMin(
                  over.walkMin,
                  over.cableM === undefined ? "" : PLAN_WORDS.ofCable(lengthText(over.cableM, style)),
                )}
          </span>
          <button type="button" className="btn btn-sm press" onClick={() => set({ walkMin: over?.walkMin ?? 1 })}>
            {PLAN_WORDS.measureIt}
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
        label={PLAN_WORDS.walk}
        unit="min"
        optional
        value={way.walkMin}
        most={600}
        onValue={(walkMin) => set({ walkMin: walkMin ?? 0 })}
      />
      <NumberField
        label={PLAN_WORDS.cable}
        unit={unit}
        optional
        value={inUnit(way.cableM)}
        most={30_000}
        onValue={(value) => set({ cableM: inM(value) })}
      />
      <NumberField
        label={PLAN_WORDS.straight}
        unit={unit}
        optional
        value={inUnit(way.straightM)}
        most={30_000}
        onValue={(value) => set({ straightM: inM(value) })}
      />
    </div>
  );
}
