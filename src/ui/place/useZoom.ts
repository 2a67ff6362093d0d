"use client";

import { usePinch } from "@use-gesture/react";
import { useState, type RefObject } from "react";
import { useElementWidth } from "@/ui/board/useElementWidth";

/** Below this a clip is no target for a thumb any more; a board that would need less scrolls, at a size to read. */
const LEAST_FIT = 0.75;
const SCROLLED = 0.95;
const LEAST = 0.35;
const MOST = 2.5;

/** The zoom of a board in its frame: fitted to the width until somebody pinches or presses a button. */
export function useZoom(frame: RefObject<HTMLDivElement | null>, contentWidth: number) {
  const frameWidth = useElementWidth(frame);
  const [chosen, setChosen] = useState<number | undefined>();

  const zoom = chosen ?? fittedZoom(frameWidth, contentWidth);
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

function fittedZoom(frameWidth: number | undefined, contentWidth: number): number {
  if (frameWidth === undefined) return 1;
  const fit = frameWidth / contentWidth;
  return fit < LEAST_FIT ? SCROLLED : Math.min(1, fit);
}
