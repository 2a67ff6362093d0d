import { asPrinted, printedStyle } from "@/core/job/asPrinted";
import type { JobDocument } from "@/core/job/jobDocument";
import { lengthShown } from "@/core/numberStyle";
import type { Material } from "@/core/visit/bring/material";
import { materials } from "@/core/visit/materials";

/** One line of what to bring as a shop sells it: cable by the metre or by the foot. */
export type PrintedMaterial = Omit<Material, "unit"> & { readonly unit: Material["unit"] | "ft" };

/**
 * What to bring, for paper or a table: in the units of the job's supply.
 *
 * For example: on 120/240 V, 12 m of cable are 39.37 ft.
 */
export function printedMaterials(document: JobDocument): readonly PrintedMaterial[] {
  const say = asPrinted(document);
  const style = printedStyle(document);
  return materials(document).map((line): PrintedMaterial => {
    const said = { ...line, text: say(line.text), why: say(line.why) };
    if (line.unit !== "m" || style.lengths === "metric") return said;
    const inFeet = (lengthM: number) => lengthShown(lengthM, style);
    return {
      ...said,
      unit: "ft",
      quantity: inFeet(line.quantity),
      uses: line.uses.map((use) => ({ ...use, quantity: inFeet(use.quantity) })),
    };
  });
}
