"use client";

import { Plus } from "lucide-react";
import { ownEventSchema, type OwnEvent } from "@/core/plan/limitSettings";
import { phasesOfSupply } from "@/core/site/phasors";
import type { LimitDesk } from "@/ui/limit/useLimit";
import { RemoveButton } from "@/ui/parts/form/RemoveButton";
import { NumberField } from "@/ui/parts/form/NumberField";
import { SelectField } from "@/ui/parts/form/SelectField";
import { LIMIT_WORDS } from "@/ui/words/limitWords";

const WHAT = [
  ["load", LIMIT_WORDS.loadBecomes],
  ["sun", LIMIT_WORDS.sunGives],
  ["meter-lost", LIMIT_WORDS.meterCableCut],
  ["meter-back", LIMIT_WORDS.meterBack],
  ["inverter-lost", LIMIT_WORDS.inverterLost],
  ["inverter-back", LIMIT_WORDS.inverterBack],
  ["grid-lost", LIMIT_WORDS.gridLost],
  ["grid-return", LIMIT_WORDS.gridReturns],
] as const;
const MOST = 60;

/** A list of happenings that somebody builds, in the order of time. */
export function EventList({ desk }: { desk: LimitDesk }) {
  const { limit, limiter, set } = desk;
  const change = (at: number, part: Partial<OwnEvent>, field: string) =>
    set(
      { events: limit.events.map((event, which) => (which === at ? { ...event, ...part } : event)) },
      `event ${at} ${field}`,
    );
  const last = limit.events.at(-1);
  return (
    <section aria-label={LIMIT_WORDS.ownList} className="panel space-y-2 p-3">
      {limit.events.length === 0 && <p className="text-sm">{LIMIT_WORDS.addWhatShouldHappenOneAfter}</p>}
      <ol className="space-y-2">
        {limit.events.map((event, at) => (
          <EventRow key={event.id ?? at} event={event} at={at} change={change} desk={desk} />
        ))}
      </ol>
      <button
        type="button"
        className="btn press"
        disabled={limit.events.length >= MOST}
        onClick={() =>
          set({
            events: [
              ...limit.events,
              ownEventSchema.parse({
                id: crypto.randomUUID(),
                atS: last ? last.atS + 10 : 10,
                what: LIMIT_WORDS.load,
                inverter: limiter?.inverters[0]?.id ?? "",
              }),
            ],
          })
        }
      >
        <Plus size={18} aria-hidden />
        {LIMIT_WORDS.addAnEvent}
      </button>
    </section>
  );
}

interface EventProps {
  readonly event: OwnEvent;
  readonly at: number;
  readonly change: (at: number, part: Partial<OwnEvent>, field: string) => void;
  readonly desk: LimitDesk;
}

function EventRow({ event, at, change, desk }: EventProps) {
  const { set, limit } = desk;
  return (
    <li className="flex flex-wrap items-end gap-2">
      <div className="w-24">
        <NumberField
          label={LIMIT_WORDS.at}
          about={LIMIT_WORDS.event(at + 1)}
          unit="s"
          least={-0.1}
          most={3600}
          value={event.atS}
          onValue={(atS) => atS !== undefined && change(at, { atS: Math.max(0, atS) }, "at")}
        />
      </div>
      <div className="w-44">
        <SelectField
          label={LIMIT_WORDS.eventOf(at + 1)}
          value={event.what}
          options={WHAT.map(([value, label]) => ({ value, label }))}
          onValue={(what) => change(at, { what: ownEventSchema.shape.what.parse(what) }, "what")}
        />
      </div>
      <EventDetails event={event} at={at} change={change} desk={desk} />
      <RemoveButton
        label={LIMIT_WORDS.removeEvent(at + 1)}
        onRemove={() => set({ events: limit.events.toSpliced(at, 1) })}
      />
    </li>
  );
}

/** What the kind of event asks for: a phase, a power, an inverter. */
function EventDetails({ event, at, change, desk }: EventProps) {
  const { document, limiter } = desk;
  return (
    <>
      {event.what === "load" && (
        <div className="w-24">
          <SelectField
            label={LIMIT_WORDS.on}
            value={event.phase}
            options={phasesOfSupply(document.site.supply).map((phase) => ({ value: phase, label: phase }))}
            onValue={(phase) => change(at, { phase: ownEventSchema.shape.phase.unwrap().parse(phase) }, "phase")}
          />
        </div>
      )}
      {(event.what === "load" || event.what === "sun") && (
        <div className="w-32">
          <NumberField
            label={LIMIT_WORDS.power}
            about={LIMIT_WORDS.event(at + 1)}
            unit="W"
            least={-0.1}
            most={1e7}
            value={event.powerW}
            onValue={(powerW) => powerW !== undefined && change(at, { powerW: Math.max(0, powerW) }, "power")}
          />
        </div>
      )}
      {["sun", "inverter-lost", "inverter-back"].includes(event.what) && (
        <div className="w-44">
          <SelectField
            label={LIMIT_WORDS.inverter}
            value={event.inverter}
            options={[
              ...(event.what === "sun" ? [{ value: "", label: LIMIT_WORDS.each }] : []),
              ...(limiter?.inverters ?? []).map(({ id, name }) => ({ value: id, label: name })),
            ]}
            onValue={(inverter) => change(at, { inverter }, "inverter")}
          />
        </div>
      )}
    </>
  );
}
