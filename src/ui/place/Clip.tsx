"use client";

import { useDraggable } from "@dnd-kit/core";
import { ChevronsLeft, ChevronsRight, Shuffle } from "lucide-react";
import type { KeyboardEvent } from "react";
import type { DrawnClip } from "@/core/board/railBoard";
import { windowText } from "@/core/job/placeFindings";
import { arrowWords } from "@/core/site/arrowWords";
import type { Step } from "@/core/site/fitClamp";
import type { Ct, Site } from "@/core/site/planSchema";
import { inputTag } from "@/core/site/inputTag";
import type { Picked, PlaceDesk } from "@/ui/place/usePlace";

const STEP_KEYS: Readonly<Record<string, Step>> = {
  ArrowLeft: "along-to-grid",
  ArrowRight: "along-to-load",
  ArrowUp: "across-up",
  ArrowDown: "across-down",
};

/** A clamp on a rail: tap to pick, drag to move, and the keys of the legend while it has the focus. */
export function Clip({ place, clip }: { place: PlaceDesk; clip: DrawnClip }) {
  const { site, picked } = place;
  const what: Picked = { kind: "clip", ct: clip.ct, windowAt: clip.windowAt };
  const { setNodeRef, listeners, isDragging } = useDraggable({ id: `clip ${clip.ct} ${clip.windowAt}`, data: what });
  const ct = site.cts.find((candidate) => candidate.id === clip.ct);
  if (!ct) return null;
  const isPicked = picked?.kind === "clip" && picked.ct === clip.ct;

  const onKeyDown = (event: KeyboardEvent) => {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const step = STEP_KEYS[event.key];
    if (step) place.step(what, step);
    else if (event.key.toLowerCase() === "f") place.turn(ct.id);
    else if (event.key.toLowerCase() === "s") place.swap(ct.id);
    else if (event.key === "Delete" || event.key === "Backspace") place.remove(ct.id);
    else if (event.key === "Escape") place.pick(undefined);
    else if (/^[1-9]$/.test(event.key)) plugByDigit(place, what, ct, Number(event.key));
    else return;
    event.preventDefault();
  };

  return (
    <button
      ref={setNodeRef}
      type="button"
      {...listeners}
      aria-label={clipLabel(site, ct)}
      aria-pressed={isPicked}
      data-ct={ct.id}
      className={`absolute z-20 cursor-grab touch-none rounded-lg ${isDragging ? "opacity-40" : ""}`}
      style={{ left: clip.box.x, top: clip.box.y, width: clip.box.width, height: clip.box.height }}
      onClick={() => place.pick(isPicked ? undefined : what)}
      onFocus={() => place.pick(what)}
      onMouseDown={(event) => event.preventDefault()}
      onKeyDown={onKeyDown}
    >
      <ClipFace site={site} picked={what} lifted={isPicked} />
    </button>
  );
}

/** How a clamp looks, on its rail or in the hand. */
export function ClipFace({ site, picked, lifted }: { site: Site; picked: Picked; lifted: boolean }) {
  const ct = picked.kind === "clip" ? site.cts.find((candidate) => candidate.id === picked.ct) : undefined;
  const input =
    picked.kind === "input"
      ? site.meters.find((meter) => meter.id === picked.meter)?.inputs.find((candidate) => candidate.n === picked.input)
      : undefined;
  const plug = ct ? ct.plug : picked.kind === "input" ? picked : null;
  const Chevrons = (ct?.arrow ?? input?.arrow) === "to-grid" ? ChevronsLeft : ChevronsRight;
  return (
    <span
      className={
        "flex h-11 w-11 flex-col items-center justify-center rounded-lg border-[3px] leading-none " +
        `${lifted ? "border-primary bg-primary text-primary-content" : "border-base-content bg-base-100"}`
      }
    >
      <span className="flex items-center text-sm font-bold">
        {plug ? inputTag(site, plug.meter, plug.input) : "–"}
        {ct?.leads === "swapped" && <Shuffle size={12} className="ml-0.5" aria-hidden />}
      </span>
      <Chevrons size={22} strokeWidth={3} className="-my-0.5" aria-hidden />
    </span>
  );
}

/** A digit chooses the input of the clip's own meter, or of the first for one that is not plugged in. */
function plugByDigit(place: PlaceDesk, what: Picked, ct: Ct, digit: number): void {
  const meter = place.site.meters.find((candidate) => candidate.id === ct.plug?.meter) ?? place.site.meters[0];
  if (meter?.inputs.some((input) => input.n === digit)) place.plugInto(what, { meter: meter.id, input: digit });
}

function clipLabel(site: Site, ct: Ct): string {
  const plug = ct.plug ? `feeds input ${inputTag(site, ct.plug.meter, ct.plug.input)}` : "not plugged in";
  const leads = ct.leads === "swapped" ? ", leads swapped" : "";
  return `Clamp on ${windowText(site, ct.around)}, arrow ${arrowWords(ct.arrow)}${leads}, ${plug}`;
}
