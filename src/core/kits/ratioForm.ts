import { z } from "zod";

const MAX_ENTRIES = 200;
const rangeShape = {
  min: z.number().positive("above 0").max(1e6),
  max: z.number().positive("above 0").max(1e6),
  step: z.number().positive("above 0").max(1e6),
};

/**
 * How a kit takes the ratio of its CTs: as primary ÷ secondary, as primary amperes, or chosen from a list of primary
 * amperes.
 */
export const ratioFormSchema = z.discriminatedUnion("kind", [
  z
    .strictObject({ kind: z.literal("ratio"), ...rangeShape })
    .refine(({ min, max }) => min <= max, { path: ["max"], message: "max is below min" }),
  z
    .strictObject({ kind: z.literal("primary"), ...rangeShape })
    .refine(({ min, max }) => min <= max, { path: ["max"], message: "max is below min" }),
  z.strictObject({
    kind: z.literal("list"),
    values: z.array(z.number().positive("above 0").max(1e6)).min(1).max(MAX_ENTRIES),
  }),
]);

export type RatioForm = z.output<typeof ratioFormSchema>;
