import { z } from "zod";
import { text } from "@/core/text";

/** That a job is a copy: when and how it was made, and what of the first one it does not have. */
export const copiedSchema = z.object({
  at: z.iso.datetime().describe("When the copy was made"),
  how: z.enum(["file", "duplicate"]).describe("From a job file, or of a job that was there"),
  without: z.array(text().min(1).max(60)).max(10).default([]).describe("What the first one has and the copy has not"),
});
