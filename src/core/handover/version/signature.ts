import { z } from "zod";
import { text } from "@/core/text";

/** The box that is signed in, in its own units: it is drawn at any size. */
export const SIGNATURE_BOX = { width: 1000, height: 300 };

const MOST_STROKES = 200;
const MOST_POINTS = 4000;

const pointSchema = z.tuple([z.int().min(0).max(SIGNATURE_BOX.width), z.int().min(0).max(SIGNATURE_BOX.height)]);

/** Strokes of a pen or a finger, each as the points that it went through. */
const strokesSchema = z
  .array(z.array(pointSchema).min(1).max(MOST_POINTS))
  .min(1, "sign in the box")
  .max(MOST_STROKES, "too many strokes: sign again")
  .refine((strokes) => strokes.flat().length <= MOST_POINTS, "too long: sign again")
  .refine((strokes) => strokes.flat().length > 1, "sign in the box");

/** Who signs, and what was drawn. */
export const signatureSchema = z.strictObject({
  role: z.enum(["technician", "owner"]).describe("For whom it is signed"),
  name: text().trim().min(1, "say who signs").max(60, "at most 60 characters").describe("Who signed"),
  strokes: strokesSchema.describe("Each stroke as points in a box of 1000 by 300"),
});

/** A signature as it was drawn. */
export type Signature = z.output<typeof signatureSchema>;

/** For whom somebody signs, in words. */
export const SIGNER_WORDS: Readonly<Record<Signature["role"], string>> = { technician: "Technician", owner: "Owner" };

/**
 * A stroke as the path of a vector drawing; a dot is a short line.
 *
 * @example strokePath([[10, 20], [30, 20]]) // "M10 20L30 20"
 */
export function strokePath(stroke: Signature["strokes"][number]): string {
  const points = stroke.length === 1 ? [...stroke, [stroke[0]![0] + 2, stroke[0]![1]]] : stroke;
  return points.map(([x, y], at) => `${at === 0 ? "M" : "L"}${x} ${y}`).join("");
}
