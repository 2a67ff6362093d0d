import type { JobDocument } from "@/core/job/jobDocument";
import { namesGiven } from "@/core/job/namesGiven";
import { lengthsOfSupply, localText, type NumberStyle } from "@/core/numberStyle";

/**
 * How numbers are written on what leaves the app for paper or a table: with a point, in the units of the job's supply.
 *
 * For example: of a job on 120/240 V, feet and gauges.
 */
export function printedStyle({ site }: Pick<JobDocument, "site">): NumberStyle {
  return { decimal: "point", lengths: lengthsOfSupply(site.supply.system) };
}

/**
 * A function that writes a text of a job for paper or a table: lengths and sections in the units of its supply, names
 * as they were given.
 *
 * For example: of a job on 120/240 V, "12 m of 8.37 mm²" becomes "39.4 ft of 8 AWG".
 */
export function asPrinted(document: JobDocument): (text: string) => string {
  const [style, names] = [printedStyle(document), namesGiven(document)];
  return (text) => localText(text, style, names);
}
