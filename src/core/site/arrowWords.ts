import type { Direction } from "@/core/site/planSchema";

/** "toward the loads" or "toward the grid". */
export function arrowWords(arrow: Direction): string {
  return arrow === "to-load" ? "toward the loads" : "toward the grid";
}
