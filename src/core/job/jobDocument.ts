import { z } from "zod";
import { refineWith } from "@/core/problem";
import { shownValueSchema } from "@/core/flows/balance";
import { testSheetProblems, testSheetShape } from "@/core/flows/testSheetSchema";
import { colourSchemeSchema } from "@/core/site/conductorColours";
import { siteSchema } from "@/core/site/siteSchema";

export const JOB_FORMAT = "gormit-job";
export const JOB_VERSION = 1;

export const jobNameSchema = z.string().trim().min(1, "give the job a name").max(80, "a job's name has at most 80 characters");

const jobDetailsShape = z.object({
  name: jobNameSchema,
  place: z.string().trim().max(120, "at most 120 characters").default(""),
  notes: z.string().max(20_000, "at most 20 000 characters").default(""),
  colourScheme: colourSchemeSchema.default("iec"),
});

/**
 * A whole job in the open `gormit-job` format: details, site plan with the clamps as fitted, and the test
 * sheet with what was seen. Import and export carry exactly this. See docs/formats.md.
 */
export const jobDocumentSchema = z
  .object({
    format: z.literal(JOB_FORMAT, `this is no ${JOB_FORMAT} file: "format" must be "${JOB_FORMAT}"`),
    version: z.literal(JOB_VERSION, `this program reads version ${JOB_VERSION} of the format`),
    job: jobDetailsShape,
    site: siteSchema,
    tests: testSheetShape.default(() => testSheetShape.parse({})),
    /** What the displays showed, for the balance check. */
    displays: z.array(shownValueSchema).max(12).default([]),
  })
  .superRefine(refineWith(({ site, tests }) =>
    testSheetProblems(tests, site).map((problem) => ({ ...problem, path: ["tests", ...problem.path] }))));

export type JobDocument = z.output<typeof jobDocumentSchema>;
