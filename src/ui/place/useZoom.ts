"use client";

import { usePinch } from "@use-gesture/react";
import { useEffect, useState, type RefObject } from "react";

/** Below this a clip is no target for a thumb any more; a wider board scrolls instead of shrinking further. */
const LEAST_FIT = 0.75;
const LEAST = 0.35;
const MOST = 2.5;

/** The zoom of a board in its frame: fitted to the width until somebody pinches or presses a button. */
export function useZoom(frame: RefObject<HTMLDivElement | null>, contentWidth: number) {
  const [frameWidth, setFrameWidth] = useState<number | undefined>();
  const [chosen, setChosen] = useState<number | undefined>();

  useEffect(() => {
    const element = frame.current;
    if (!element) return;
    const observer = new ResizeObserver(([entry]) => setFrameWidth(entry?.contentRect.width));
    observer.observe(element);
    return () => observer.disconnect();
  }, [frame]);

  const fitted = frameWidth === undefined ? 1 : Math.min(1, Math.max(LEAST_FIT, frameWidth / contentWidth));
  const zoom = chosen ?? fitted;
  usePinch(({ offset: [scale] }) => setChosen(scale), {
    target: frame, scaleBounds: { min: LEAST, max: MOST }, from: () => [zoom, 0], eventOptions: { passive: false },
  });
  return {
    zoom,
    zoomBy: (factor: number) => setChosen(Math.min(MOST, Math.max(LEAST, zoom * factor))),
    fit: () => setChosen(undefined),
  };
}
