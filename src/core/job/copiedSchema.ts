import { z } from "zod";
import { text } from "@/core/text";

/** That a job is a copy: when and how it was made, and what of the first one it does not have. */
export const copiedSchema = z.object({
  at: z.iso.datetime().describe("When the copy was made"),
  how: z
    .enum(["file", "duplicate", "bundle"])
    .describe("From a job file, of a job that was there, or whole from a bundle"),
  without: z.array(text().min(1).max(60)).max(10).default([]).describe("What the first one has and the copy has not"),
});
