import type { Supply } from "@/core/site/planSchema";

const SYSTEMS = {
  "single-phase": "Single phase",
  "split-phase": "Split phase",
  "three-phase": "Three phase",
} as const;

/**
 * A supply in a line, with its main fuse where it is known.
 *
 * For example: "Three phase, 230 V, 50 Hz, main fuse 35 A".
 */
export function supplyWords({ system, voltageV, frequencyHz, mainFuseA }: Supply): string {
  const fuse = mainFuseA === undefined ? "" : `, main fuse ${mainFuseA} A`;
  return `${SYSTEMS[system]}, ${voltageV} V, ${frequencyHz} Hz${fuse}`;
}
