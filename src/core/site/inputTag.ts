import type { Site } from "@/core/site/planSchema";

/**
 * The short tag of a meter input, unique on a site: a letter for the meter, then the input's number.
 *
 * For example: `inputTag(site, "m2", 3)` gives "B3"
 */
export function inputTag(site: Site, meter: string, input: number): string {
  return `${meterLetter(site, meter)}${input}`;
}

/** A for the first meter of the plan, B for the second … */
export function meterLetter(site: Site, meter: string): string {
  const at = site.meters.findIndex((candidate) => candidate.id === meter);
  return at < 0 ? "–" : String.fromCharCode(65 + (at % 26));
}
