import { z } from "zod";

/** How a report is asked for. */
export const reportQuerySchema = z.object({
  form: z.enum(["short", "full"]).default("full").describe("Short: what is proved and by what; full: everything"),
  paper: z.enum(["a4", "letter"]).default("a4").describe("Size of the paper"),
});
