"use client";

import { Maximize2, ZoomIn, ZoomOut } from "lucide-react";
import { BOARD_WORDS } from "@/ui/words/boardWords";

const ZOOM_STEP = 1.2;

/** Smaller, the whole board, larger. */
export function ZoomButtons({ zoomBy, fit }: { zoomBy: (factor: number) => void; fit: () => void }) {
  const buttons = [
    [BOARD_WORDS.smaller, ZoomOut, () => zoomBy(1 / ZOOM_STEP)],
    [BOARD_WORDS.showTheWholeBoard, Maximize2, fit],
    [BOARD_WORDS.larger, ZoomIn, () => zoomBy(ZOOM_STEP)],
  ] as const;
  return buttons.map(([label, Icon, act]) => (
    <button key={label} type="button" className="press flex items-center justify-center" title={label} onClick={act}>
      <Icon size={20} aria-hidden />
      <span className="sr-only">{label}</span>
    </button>
  ));
}
