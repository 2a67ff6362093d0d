import { z } from "zod";
import { REPORT_LANGUAGE_IDS } from "@/core/handover/report/words/reportLanguages";
import { reportSchema } from "@/core/handover/report/reportSchema";
import { storedJobSchema } from "@/core/job/storedJob";
import { signatureSchema } from "@/core/handover/version/signature";
import { personSchema } from "@/core/visit/visitEntry";

const sha256Schema = z.string().regex(/^[0-9a-f]{64}$/, "a SHA-256 has 64 hexadecimal digits");

/** One hand over of a job, as it was: nothing changes it any more. */
const handoverVersionSchema = z.strictObject({
  id: z.uuid(),
  number: z.int().describe("The first is 1"),
  at: z.iso.datetime().describe("When"),
  person: z.string().describe("Who handed over"),
  state: z.string().describe("Done, or how much was missing"),
  revision: z.int().describe("Of the job"),
  sha256: sha256Schema.describe("Of the data of its report"),
  signatures: z.array(signatureSchema),
});

/** All hand overs of a job, newest first, and what has changed since the newest. */
export const handoversSchema = z.strictObject({
  versions: z.array(handoverVersionSchema),
  current: z.strictObject({
    sha256: sha256Schema.describe("Of the report as it would be now: what is handed over names it"),
    languages: z.record(z.enum(REPORT_LANGUAGE_IDS), sha256Schema).describe("Of the same report in each language"),
    language: z.enum(REPORT_LANGUAGE_IDS).describe("Of the newest hand over, else English: what follows is said in it"),
    state: z.string(),
    changed: z.array(
      z.strictObject({
        section: z.string(),
        title: z.string(),
        added: z.array(z.string()),
        gone: z.array(z.string()),
      }),
    ),
    newLogLines: z.int().describe("Lines of the log since the newest hand over"),
  }),
});

/** A hand over with what was handed over. */
export const handoverAnswerSchema = handoverVersionSchema.extend({ document: storedJobSchema, report: reportSchema });

/** A hand over to be made. */
export const handoverAskedSchema = z.strictObject({
  id: z.uuid().describe("Chosen by whoever asks: the same sent again finds its hand over"),
  person: personSchema,
  sha256: sha256Schema.describe("Of the report that was looked at"),
  signatures: z
    .array(signatureSchema)
    .max(2)
    .refine((all) => new Set(all.map(({ role }) => role)).size === all.length, "each signs once")
    .default([]),
});

/** One hand over of a job. */
export type HandoverVersion = z.output<typeof handoverVersionSchema>;
/** All hand overs of a job, and how it stands now. */
export type Handovers = z.output<typeof handoversSchema>;
