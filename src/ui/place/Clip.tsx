"use client";

import { useDraggable } from "@dnd-kit/core";
import { ChevronsLeft, ChevronsRight, Shuffle } from "lucide-react";
import type { DrawnClip } from "@/core/board/railBoard";
import type { Site } from "@/core/site/planSchema";
import { inputTag } from "@/core/site/inputTag";
import { clipKey, clipLabel } from "@/ui/place/clipKeys";
import type { Picked, PlaceDesk } from "@/ui/place/usePlace";

/** A CT on a rail: tap to pick, drag to move; with the keys it is picked up, moved and put down. */
export function Clip({ place, clip }: { place: PlaceDesk; clip: DrawnClip }) {
  const { site, picked } = place;
  const what: Picked & { kind: "clip" } = { kind: "clip", ct: clip.ct, windowAt: clip.windowAt };
  const { setNodeRef, listeners, isDragging } = useDraggable({ id: `CT ${clip.ct} ${clip.windowAt}`, data: what });
  const ct = site.cts.find((candidate) => candidate.id === clip.ct);
  if (!ct) return null;
  const isPicked = picked?.kind === "clip" && picked.ct === clip.ct;
  return (
    <button
      ref={setNodeRef}
      type="button"
      {...listeners}
      aria-label={clipLabel(site, ct)}
      aria-pressed={isPicked}
      aria-describedby="clip-keys"
      data-ct={ct.id}
      className={`absolute z-20 cursor-grab touch-none rounded-lg ${isDragging ? "opacity-40" : ""}`}
      style={{ left: clip.box.x, top: clip.box.y, width: clip.box.width, height: clip.box.height }}
      onClick={() => (isPicked ? place.putDown() : place.pick(what))}
      onMouseDown={(event) => event.preventDefault()}
      onKeyDown={(event) => clipKey(event, place, what, ct)}
    >
      <ClipFace site={site} picked={what} lifted={isPicked} />
    </button>
  );
}

/** How a CT looks, on its rail or in the hand. */
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
