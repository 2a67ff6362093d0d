import { z } from "zod";
import { idSchema } from "@/core/names";
import { observationSchema } from "@/core/online/onlineSchema";

/** What is asked for when Gormit tries the network. */
export const tryRequestSchema = z.strictObject({
  device: idSchema.describe("The device whose way is tried"),
  onBench: z.boolean().default(false).describe("On this job's bench, in place of the site's network"),
});

/** What was tried, in words, and what it says of the chain where it says something. */
export const triedSchema = z.strictObject({
  at: z.iso.datetime(),
  tried: z.array(
    z.strictObject({
      what: z.string().describe("What was tried, and where"),
      said: z.string().describe("What came of it"),
      ms: z.number().describe("How long that took"),
      seen: observationSchema.optional(),
    }),
  ),
});

/** All that was tried at one time. */
export type Tried = z.output<typeof triedSchema>;
/** One thing that was tried. */
export type OneTry = Tried["tried"][number];
