import { z } from "zod";

/** A line conductor of the supply. */
export const phaseSchema = z.enum(["L1", "L2", "L3"]).describe("Line conductor of the supply");
/** "L1", "L2" or "L3". */
export type Phase = z.output<typeof phaseSchema>;
