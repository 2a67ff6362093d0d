import { z } from "zod";
import { REPORT_LANGUAGE_IDS } from "@/core/handover/report/words/reportLanguages";

/** How a report is asked for. */
export const reportQuerySchema = z.object({
  form: z.enum(["short", "full"]).default("full").describe("Short: what is proved and by what; full: everything"),
  language: z.enum(REPORT_LANGUAGE_IDS).default("en").describe("Of its own words; what people wrote stays"),
  paper: z.enum(["a4", "letter"]).default("a4").describe("Size of the paper"),
});
