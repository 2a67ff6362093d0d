import { z } from "zod";
import { storedJobSchema } from "@/core/job/storedJob";
import { jobSummarySchema } from "@/core/jobSummary";
import { visitEntrySchema } from "@/core/visit/visitEntry";

/** A job as the routes give it: its document with the revision that it is at. */
export const jobAnswerSchema = z.object({
  id: z.uuid(),
  revision: z.int(),
  savedAt: z.iso.datetime(),
  document: storedJobSchema,
});
/** A save: whoever sent the document has it, and needs no copy read again. */
export const savedJobSchema = jobAnswerSchema.omit({ document: true });
/** A new job, or the one that the same request made before. */
export const madeJobSchema = z.object({ id: z.uuid() });
/** A job that was brought in from a bundle, with what came with it. */
export const broughtJobSchema = jobAnswerSchema.extend({
  brought: z.object({
    entries: z.int().describe("Lines of the log"),
    photographs: z.int(),
    handovers: z.int(),
    isRenumbered: z.boolean().describe("Its lines have ids of their own, since the first job stands here too"),
  }),
});
/** What is there by now, where a save came too late. */
export const jobConflictSchema = z.object({ current: jobAnswerSchema });
/** One page of the list of jobs. */
export const jobPageSchema = z.object({
  jobs: z.array(
    z.object({ id: z.uuid(), name: z.string(), place: z.string(), summary: jobSummarySchema, savedAt: z.string() }),
  ),
  total: z.int(),
  page: z.int(),
  pages: z.int(),
  places: z.array(z.string()),
});
/** The log of a job: what was recorded, and which revisions changed which parts. */
export const visitLogSchema = z.object({
  entries: z.array(visitEntrySchema),
  changes: z.array(z.object({ revision: z.int(), at: z.string(), parts: z.array(z.string()) })),
});
/** The entries that are kept by now. */
export const keptEntriesSchema = z.object({ kept: z.array(z.uuid()) });
/** The photograph that is kept by now. */
export const keptPhotoSchema = z.object({ kept: z.uuid() });
