import type { Supply } from "@/core/site/planSchema";

const NAMED: Readonly<Record<Supply["system"], RegExp>> = {
  "single-phase": /\b(?:single|one)[ -]phase\b|\b1P2W\b/i,
  "split-phase": /\bsplit[ -]phase\b|\b1P3W\b/i,
  "three-phase": /\bthree[ -]phase\b|\b3P[34]W\b/i,
};

/**
 * Whether a line of a kit's manual is about a supply: it names it, or it names none. A jumper for a single phase would
 * short the phases of a supply that has three.
 *
 * @param when What the kit says of when the line holds.
 * @example isForSupply("single-phase supply", "three-phase") // false
 * @example isForSupply("without neutral", "three-phase") // true
 */
export function isForSupply(when: string, system: Supply["system"]): boolean {
  const named = Object.entries(NAMED).filter(([, pattern]) => pattern.test(when));
  return named.length === 0 || named.some(([name]) => name === system);
}
