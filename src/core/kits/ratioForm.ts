import { z } from "zod";

const MAX_ENTRIES = 200;
const rangeShape = {
  min: z.number().positive("above 0").max(1e6).describe("At least"),
  max: z.number().positive("above 0").max(1e6).describe("At most"),
  step: z.number().positive("above 0").max(1e6).describe("In steps of"),
};

/**
 * How a kit takes the ratio of its CTs: as primary ÷ secondary, as primary amperes, or chosen from a list of primary
 * amperes.
 */
export const ratioFormSchema = z.discriminatedUnion("kind", [
  z
    .strictObject({ kind: z.literal("ratio").describe("What it is"), ...rangeShape })
    .refine(({ min, max }) => min <= max, { path: ["max"], message: "max is below min" }),
  z
    .strictObject({ kind: z.literal("primary").describe("What it is"), ...rangeShape })
    .refine(({ min, max }) => min <= max, { path: ["max"], message: "max is below min" }),
  z.strictObject({
    kind: z.literal("list").describe("What it is"),
    values: z
      .array(z.number().positive("above 0").max(1e6))
      .min(1)
      .max(MAX_ENTRIES)
      .describe("The values that it takes"),
  }),
]);

/** In which form a kit takes a CT's ratio: as a ratio, as primary amperes, or from a list. */
export type RatioForm = z.output<typeof ratioFormSchema>;
