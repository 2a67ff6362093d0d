import { z } from "zod";
import { registerSchema } from "@/core/kits/registerSchema";

/** One device that answers on a line, with its registers. */
export const readableUnitSchema = z.strictObject({
  unit: z.int().describe("Its address on the line"),
  device: z.string(),
  name: z.string(),
  meter: z.string().optional().describe("The meter whose inputs the registers show"),
  kit: z.string(),
  turnaroundMs: z.number(),
  registers: z.array(registerSchema),
});

/** A device that answers on a line: address, registers, time until it answers in ms. */
export type ReadableUnit = z.output<typeof readableUnitSchema>;
