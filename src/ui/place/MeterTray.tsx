"use client";

import { useDraggable, useDroppable } from "@dnd-kit/core";
import type { ComparedReading } from "@/core/flows/compareReadings";
import { windowText } from "@/core/job/placeFindings";
import { arrowWords } from "@/core/site/arrowWords";
import { clampOf } from "@/core/site/fitClamp";
import type { Meter, MeterInput, Ct } from "@/core/site/planSchema";
import { inputTag, meterLetter } from "@/core/site/inputTag";
import { ReadsLine } from "@/ui/place/ReadingTag";
import type { Picked, PlaceDesk } from "@/ui/place/usePlace";

/** The meters with their inputs in order: what each should read and reads, and a place to plug a clip in. */
export function MeterTray({ place }: { place: PlaceDesk }) {
  const { site } = place;
  const loose = site.cts.filter((ct) => !ct.plug);
  return (
    <section aria-label="Meters" className="flex min-w-0 flex-1 flex-wrap content-start gap-3 overflow-auto p-3">
      {site.meters.map((meter) => (
        <div key={meter.id} className="@container min-w-64 flex-1">
          <h3 className="mb-1 flex items-baseline gap-2 font-bold">
            <span className="rounded bg-secondary px-1.5 text-sm text-secondary-content">
              {meterLetter(site, meter.id)}
            </span>
            <span className="flex-none">{meter.name}</span>
            <span className="quiet truncate text-sm font-normal">{tapsText(meter)}</span>
          </h3>
          <ul className="space-y-1.5">
            {meter.inputs.map((input) => (
              <Socket key={input.n} place={place} meter={meter} input={input} />
            ))}
          </ul>
        </div>
      ))}
      {site.meters.length === 0 && (
        <p className="p-2">
          This plan has no meter. A meter comes with the plan: import a job that has one, or make a new job.
        </p>
      )}
      {loose.length > 0 && (
        <p className="quiet basis-full text-sm">
          Not plugged in: {loose.map((ct) => `${ct.id} on ${windowText(site, ct.around)}`).join("; ")}
        </p>
      )}
    </section>
  );
}

/** One input: tap it to find its clip, to plug the picked clip in, or to pick it up when it has none. */
function Socket({ place, meter, input }: { place: PlaceDesk; meter: Meter; input: MeterInput }) {
  const { site, picked, readings } = place;
  const at: Picked & { kind: "input" } = { kind: "input", meter: meter.id, input: input.n };
  const ct = clampOf(site, at);
  const { setNodeRef: dropRef, isOver } = useDroppable({
    id: `socket ${meter.id} ${input.n}`,
    data: { kind: "socket", meter: meter.id, input: input.n },
  });
  const { setNodeRef: dragRef, listeners } = useDraggable({
    id: `input ${meter.id} ${input.n}`,
    data: at,
    disabled: ct !== undefined,
  });
  const reading = readings.find((candidate) => candidate.meter === meter.id && candidate.input === input.n);
  const isPicked =
    picked?.kind === "clip"
      ? picked.ct === ct?.id
      : picked?.kind === "input" && picked.meter === meter.id && picked.input === input.n;
  const takesPicked = picked?.kind === "clip" && picked.ct !== ct?.id;

  const tap = () => {
    if (takesPicked) place.plugInto(picked, at);
    else if (isPicked) place.pick(undefined);
    else place.pick(ct ? { kind: "clip", ct: ct.id, windowAt: 0 } : at);
    if (ct && !takesPicked) bringIntoSight(ct.id);
  };

  return (
    <li ref={dropRef}>
      <button
        ref={dragRef}
        type="button"
        {...listeners}
        onClick={tap}
        aria-pressed={isPicked}
        data-socket={inputTag(site, meter.id, input.n)}
        data-lit={isOver || undefined}
        className={
          "press flex w-full items-center gap-2 rounded-md border-2 bg-base-100 px-2 py-1 text-left " +
          `${isPicked ? "border-primary" : isOver ? "border-primary border-dashed" : "border-base-300"} ` +
          `${ct ? "" : "touch-none"}`
        }
      >
        <SocketText isPicked={isPicked} place={place} meter={meter} input={input} ct={ct} reading={reading} />
      </button>
    </li>
  );
}

function SocketText({
  isPicked,
  place,
  meter,
  input,
  ct,
  reading,
}: {
  isPicked: boolean;
  place: PlaceDesk;
  meter: Meter;
  input: MeterInput;
  ct: Ct | undefined;
  reading: ComparedReading | undefined;
}) {
  const { site } = place;
  return (
    <>
      <span
        className={
          "flex h-9 w-9 flex-none items-center justify-center rounded text-sm font-bold " +
          `${isPicked ? "bg-primary text-primary-content" : "bg-base-300"}`
        }
      >
        {inputTag(site, meter.id, input.n)}
      </span>
      <span className="min-w-0 flex-1 text-sm leading-snug">
        <span className="flex items-baseline justify-between gap-2">
          <span className="truncate font-semibold">{windowText(site, input.measures)}</span>
          <span className="quiet flex-none text-xs @max-xs:hidden">arrow {arrowWords(input.arrow)}</span>
        </span>
        {ct && reading ? (
          <ReadsLine site={site} reading={reading} />
        ) : (
          <span className="block font-semibold text-warning">no clamp: tap, then tap the conductor</span>
        )}
      </span>
    </>
  );
}

/** Chosen in the tray, a clip may be outside the part of the board that is shown. */
function bringIntoSight(ct: string): void {
  document.querySelector(`[data-ct="${CSS.escape(ct)}"]`)?.scrollIntoView({ block: "nearest", inline: "center" });
}

function tapsText(meter: Meter): string {
  return Object.entries(meter.taps)
    .map(([tap, phase]) => `${tap} on ${phase}`)
    .join(", ");
}
