import type { JobDocument } from "@/core/job/jobDocument";
import { looksMeasured } from "@/core/numberStyle";

const NONE: readonly string[] = [];

/**
 * The names in a job that could be taken for a number, a length or a section where they stand in a sentence: of
 * devices, meters, places, kits, links and steps.
 *
 * For example: A job with a device "Roof 2.1": ["Roof 2.1"].
 */
export function namesGiven({ site, kits, links, tests, job }: JobDocument): readonly string[] {
  const named = [...site.nodes, ...site.meters, ...site.places, ...site.equipment, ...kits, ...links, job];
  const names = [...named.map(({ name }) => name), ...tests.steps.map(({ label }) => label)].filter(looksMeasured);
  return names.length === 0 ? NONE : [...new Set(names)];
}
