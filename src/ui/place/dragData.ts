import { z } from "zod";
import { conductorSchema } from "@/core/site/planSchema";

/** What can be dragged; the drag library carries it untyped. */
export const pickedSchema = z.discriminatedUnion("kind", [
  z.object({ kind: z.literal("clip"), ct: z.string(), windowAt: z.int() }),
  z.object({ kind: z.literal("input"), meter: z.string(), input: z.int() }),
]);

/** Where it can be dropped: on a conductor, or into an input of the tray. */
export const dropTargetSchema = z.discriminatedUnion("kind", [
  z.object({ kind: z.literal("rail"), run: z.string(), conductor: conductorSchema }),
  z.object({ kind: z.literal("socket"), meter: z.string(), input: z.int() }),
]);
