"use client";

import { useDraggable, useDroppable } from "@dnd-kit/core";
import type { ComparedReading } from "@/core/flows/compareReadings";
import { windowText } from "@/core/job/placeFindings";
import { arrowWords } from "@/core/site/arrowWords";
import { clampOf } from "@/core/site/fitClamp";
import type { Ct, Meter, MeterInput, Site } from "@/core/site/planSchema";
import { inputTag, meterLetter } from "@/core/site/inputTag";
import { ReadsLine } from "@/ui/place/ReadingTag";
import type { Picked, PlaceDesk } from "@/ui/place/usePlace";
import { PLACE_WORDS } from "@/ui/words/placeWords";

/**
 * The meters with their inputs in order: what each should read and reads, and a place to plug a CT in.
 *
 * @param isLow One line a meter, so that the board has the room while nothing is picked.
 */
export function MeterTray({ place, isLow }: { place: PlaceDesk; isLow: boolean }) {
  const { site } = place;
  const loose = site.cts.filter((ct) => !ct.plug);
  return (
    <section
      aria-label={PLACE_WORDS.meters}
      className={`flex min-w-0 flex-1 flex-wrap content-start overflow-auto ${isLow ? "gap-1 p-1.5" : "gap-3 p-3"}`}
    >
      {site.meters.map((meter) => (
        <div key={meter.id} className={isLow ? "flex w-full items-center gap-2" : "@container min-w-64 flex-1"}>
          <h3 className={`flex items-baseline gap-2 font-bold ${isLow ? "w-48 flex-none" : "mb-1"}`}>
            <span className="rounded bg-secondary px-1.5 text-sm text-secondary-content">
              {meterLetter(site, meter.id)}
            </span>
            <span className={isLow ? "line-clamp-2 text-sm leading-tight" : "flex-none"}>{meter.name}</span>
            {!isLow && <span className="quiet truncate text-sm font-normal">{tapsText(meter)}</span>}
          </h3>
          <ul className={isLow ? "flex min-w-0 flex-1 flex-wrap gap-1" : "space-y-1.5"}>
            {meter.inputs.map((input) => (
              <Socket key={input.n} place={place} meter={meter} input={input} isLow={isLow} />
            ))}
          </ul>
        </div>
      ))}
      {site.meters.length === 0 && <p className="p-2">{PLACE_WORDS.thisPlanHasNoMeterAMeterComes}</p>}
      {loose.length > 0 && (
        <p className="quiet basis-full text-sm">
          {PLACE_WORDS.notPluggedInOf(loose.map((ct) => PLACE_WORDS.on(ct.id, windowText(site, ct.around))).join("; "))}
        </p>
      )}
    </section>
  );
}

/** One input: tap it to find its CT, to plug the picked CT in, or to pick it up when it has none. */
function Socket({ place, meter, input, isLow }: { place: PlaceDesk; meter: Meter; input: MeterInput; isLow: boolean }) {
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
    else if (isPicked) place.putDown();
    else place.pick(ct ? { kind: "clip", ct: ct.id, windowAt: 0 } : at);
    if (ct && !takesPicked) bringIntoSight(ct.id);
  };

  return (
    <li ref={dropRef} className={isLow ? "min-w-56" : ""}>
      <button
        ref={dragRef}
        type="button"
        {...listeners}
        onClick={tap}
        aria-pressed={isPicked}
        data-socket={inputTag(site, meter.id, input.n)}
        data-lit={isOver || undefined}
        className={
          "press flex w-full items-center gap-2 rounded-md border-2 bg-base-100 text-left " +
          `${isLow ? "px-1" : "px-2 py-1"} ` +
          `${isPicked ? "border-primary" : isOver ? "border-primary border-dashed" : "border-base-300"} ` +
          `${ct ? "" : "touch-none"}`
        }
      >
        <SocketText {...{ isPicked, place, meter, input, ct, reading, isLow }} />
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
  isLow,
}: {
  isPicked: boolean;
  isLow: boolean;
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
        {!isLow && <WantedLine site={site} input={input} ct={ct} />}
        {ct && reading ? (
          <ReadsLine site={site} reading={reading} />
        ) : (
          <span className="block font-semibold text-warning">{PLACE_WORDS.noCtTapThenTapTheConductor}</span>
        )}
      </span>
    </>
  );
}

/** Where the CT is; and where it is wanted, where that is another place. */
function WantedLine({ site, input, ct }: { site: Site; input: MeterInput; ct: Ct | undefined }) {
  const wanted = windowText(site, input.measures);
  const is = ct && windowText(site, ct.around);
  return (
    <span className="flex items-baseline justify-between gap-2">
      <span className="line-clamp-2 font-semibold">
        {is === undefined ? PLACE_WORDS.wanted(wanted) : is === wanted ? is : PLACE_WORDS.isOnWantedOn(is, wanted)}
      </span>
      <span className="quiet flex-none text-xs @max-xs:hidden">
        {PLACE_WORDS.arrowWith(
          ct && ct.arrow !== input.arrow ? PLACE_WORDS.wantedOf(arrowWords(ct.arrow)) : "",
          arrowWords(input.arrow),
        )}
      </span>
    </span>
  );
}

/** Chosen in the tray, a CT may be outside the part of the board that is shown. */
function bringIntoSight(ct: string): void {
  document.querySelector(`[data-ct="${CSS.escape(ct)}"]`)?.scrollIntoView({ block: "nearest", inline: "center" });
}

function tapsText(meter: Meter): string {
  return Object.entries(meter.taps)
    .map(([tap, phase]) => PLACE_WORDS.onOf(tap, phase))
    .join(", ");
}
