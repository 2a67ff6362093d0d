import type { Direction, Site } from "@/core/site/planSchema";
import { siteTree } from "@/core/site/tree";

/** Below this a direction is rounding, not a flow. */
const NOTHING_BELOW_W = 0.5;

/** What power on a run does, in a word. */
export type FlowWord =
  | "no flow"
  | "importing"
  | "exporting"
  | "generating"
  | "consuming"
  | "charging"
  | "discharging"
  | "taking"
  | "feeding in"
  | "feeding back";

/**
 * The word for power on a run, by what the run feeds: importing and exporting on the supply, generating,
 * charging and discharging, consuming.
 *
 * @param towardLoadW Power toward the load side, W.
 * For example: `flowWord(site, "board", -860)` gives "exporting"
 */
export function flowWord(site: Site, run: string, towardLoadW: number): FlowWord {
  if (Math.abs(towardLoadW) < NOTHING_BELOW_W) return "no flow";
  const { nodeById, grid } = siteTree(site);
  const node = nodeById.get(run);
  if (!node) throw new Error(`flowWord: unknown run "${run}"`);
  const towardLoad = towardLoadW > 0;
  switch (node.kind) {
    case "pv-inverter":
    case "generator":
      return towardLoad ? "consuming" : "generating";
    case "battery-inverter":
      return towardLoad ? "charging" : "discharging";
    case "hybrid-inverter":
      return towardLoad ? "taking" : "generating";
    case "grid":
    case "board":
      if (node.fedFrom === grid.id) return towardLoad ? "importing" : "exporting";
      return towardLoad ? "taking" : "feeding in";
    default:
      return towardLoad ? "consuming" : "feeding back";
  }
}

/** Which way a reading says that power flows, by what its input calls positive. */
export function readingTowardLoadW(positive: Direction, readingW: number): number {
  return positive === "to-load" ? readingW : -readingW;
}
