"use client";

import { usePinch } from "@use-gesture/react";
import { useState, type RefObject } from "react";
import { usePhone } from "@/ui/parts/browser/usePhone";
import { useElementSize, type ElementSize } from "@/ui/board/useElementSize";

/** A board that would need less to be seen as a whole scrolls instead, at a size to read. */
const LEAST_FIT = 0.75;
const SCROLLED = 0.95;
/** On a phone a CT is never smaller than a thumb hits. */
const PHONE_FIT = 1;
const LEAST = 0.35;
const MOST = 2.5;

/**
 * The zoom of a board in its frame: the whole of it, as far as a thumb still hits it, until somebody pinches or presses
 * a button. A frame that gets lower, since something opened below it, leaves the zoom as it was.
 */
export function useZoom(
  frame: RefObject<HTMLDivElement | null>,
  content: { readonly width: number; readonly height: number },
) {
  const size = useElementSize(frame);
  const [chosen, setChosen] = useState<number | undefined>();
  const [roomy, setRoomy] = useState<ElementSize | undefined>();
  if (size && (size.width !== roomy?.width || size.height > roomy.height)) setRoomy(size);

  const isPhone = usePhone();
  const zoom = chosen ?? (isPhone ? PHONE_FIT : fittedZoom(roomy, content));
  usePinch(({ offset: [scale] }) => setChosen(scale), {
    target: frame,
    scaleBounds: { min: LEAST, max: MOST },
    from: () => [zoom, 0],
    eventOptions: { passive: false },
  });
  return {
    zoom,
    zoomBy: (factor: number) => setChosen(Math.min(MOST, Math.max(LEAST, zoom * factor))),
    fit: () => setChosen(undefined),
  };
}

function fittedZoom(
  room: ElementSize | undefined,
  content: { readonly width: number; readonly height: number },
): number {
  if (room === undefined) return 1;
  const across = room.width / content.width;
  if (across < LEAST_FIT) return SCROLLED;
  return Math.min(1, across, Math.max(LEAST_FIT, room.height / content.height));
}
