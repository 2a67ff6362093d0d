import type { Direction, NodeKind } from "@/core/site/planSchema";

/** Runs that end in something that gives: the board is on their supply's side. */
const SOURCE_KINDS: readonly NodeKind[] = ["pv-inverter", "battery-inverter", "hybrid-inverter", "generator"];

/**
 * Which way an arrow points. On the run of something that gives, "the grid" is the board, and "the loads" the device:
 * said so, nobody has to think which side is which.
 *
 * @param run What stands on the run, where it is known.
 * @example arrowWords("to-grid") // "toward the grid"
 * @example arrowWords("to-grid", "pv-inverter") // "toward the board"
 */
export function arrowWords(arrow: Direction, run?: NodeKind): string {
  if (run !== undefined && SOURCE_KINDS.includes(run))
    return arrow === "to-load" ? "toward the inverter, away from the board" : "toward the board";
  return arrow === "to-load" ? "toward the loads" : "toward the grid";
}
