import { z } from "zod";

const at = { x: z.number(), y: z.number() };
const colourSchema = z.string().regex(/^#[0-9a-f]{6}$/);

const shapeSchema = z.discriminatedUnion("kind", [
  z.strictObject({
    kind: z.literal("line"),
    x1: z.number(),
    y1: z.number(),
    x2: z.number(),
    y2: z.number(),
    colour: colourSchema,
    width: z.number(),
  }),
  z.strictObject({
    kind: z.literal("box"),
    ...at,
    width: z.number(),
    height: z.number(),
    fill: colourSchema,
    stroke: colourSchema,
  }),
  z.strictObject({
    kind: z.literal("text"),
    ...at,
    size: z.number(),
    words: z.string(),
    bold: z.boolean(),
    /** Which part of it stands at x. */
    anchor: z.enum(["start", "middle"]),
  }),
  /** A head of an arrow: its tip at x, y. */
  z.strictObject({ kind: z.literal("head"), ...at, points: z.enum(["left", "right"]), size: z.number() }),
]);

/** A drawing of lines, boxes and words, for a page, a sheet of paper or a program: points from its top left. */
export const drawingSchema = z.strictObject({
  title: z.string(),
  /** What it shows, for those who do not see it. */
  about: z.string(),
  width: z.number(),
  height: z.number(),
  shapes: z.array(shapeSchema),
});

/** A drawing of lines, boxes and words. */
export type Drawing = z.output<typeof drawingSchema>;
/** A part of a drawing. */
export type DrawnShape = Drawing["shapes"][number];

/**
 * The head of an arrow as the path of a vector drawing.
 *
 * @example headPath({ x: 10, y: 10, points: "right", size: 4 }) // "M10 10L6 7L6 13Z"
 */
export function headPath({
  x,
  y,
  points,
  size,
}: Pick<Extract<DrawnShape, { kind: "head" }>, "x" | "y" | "points" | "size">): string {
  const back = points === "right" ? x - size : x + size;
  const half = 0.75 * size;
  return `M${x} ${y}L${back} ${y - half}L${back} ${y + half}Z`;
}
