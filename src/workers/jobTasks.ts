import { z } from "zod";
import { markedBrought, markedCopy } from "@/core/job/copyMark";
import { importJob } from "@/core/job/importJob";
import type { JobDocument } from "@/core/job/jobDocument";
import { jobSummary, quickDiagnosis, type JobSummary } from "@/core/jobSummary";
import { storedJobSchema } from "@/core/job/storedJob";
import { kitSchema, type Kit } from "@/core/kits/kitSchema";
import { readYaml, type LineProblem } from "@/core/kits/readYaml";
import { MOST_PROBLEMS, problemsOf, type Problem } from "@/core/problem";
import { text } from "@/core/text";
import type { VisitEntry } from "@/core/visit/visitEntry";
import { remembered } from "@/workers/remembered";

/** Jobs whose verdict a thread remembers: those that are being worked on. */
const MOST_REMEMBERED = 60;

/** A job ready to be written. */
export interface ReadyJob {
  readonly name: string;
  /**
   * Its document as JSON: what is handed on between threads and to the database as text is read by nobody on the way.
   */
  readonly text: string;
  readonly summary: JobSummary;
}

/** A job with the log of its visit, to be summed up. */
export interface LoggedJob {
  readonly document: JobDocument;
  readonly entries: readonly VisitEntry[];
}

/** A job file, with when it came in. */
export interface ImportedFile {
  readonly body: Uint8Array;
  readonly at: string;
  /** Of a bundle: the log that came with it. */
  readonly entries?: readonly VisitEntry[];
}

export type SaveReading =
  | { readonly kind: "ready"; readonly revision: number; readonly person: string; readonly job: ReadyJob }
  | { readonly kind: "bad-json" | "invalid"; readonly message: string; readonly problems: readonly Problem[] };

export type ImportReading =
  | { readonly kind: "ready"; readonly job: ReadyJob; readonly questions: readonly string[] }
  | { readonly kind: "bad-file"; readonly problems: readonly Problem[] };

export type KitReading =
  | { readonly kind: "ready"; readonly kit: Kit }
  | { readonly kind: "bad-file"; readonly problems: readonly LineProblem[] };

/** Most saves of a job change neither its plan nor its readings. */
const judge = remembered(
  quickDiagnosis,
  ({ site, tests }) => JSON.stringify([{ ...site, cts: [] }, tests]),
  MOST_REMEMBERED,
);

const saveSchema = z.object({
  revision: z.int().min(1),
  document: storedJobSchema,
  person: text().trim().max(60, "at most 60 characters").default(""),
});

/** The body of a save: read, checked and summed up. */
export function readSave(body: Uint8Array): SaveReading {
  const raw = readJson(body);
  if (raw.kind === "bad-json")
    return {
      kind: "bad-json",
      message: `The body is not JSON: ${raw.detail}`,
      problems: [{ path: [], message: raw.detail }],
    };
  const parsed = saveSchema.safeParse(raw.value);
  if (!parsed.success) return { kind: "invalid", ...problemsOf(parsed.error) };
  const { revision, document, person } = parsed.data;
  return { kind: "ready", revision, person, job: summarised(document) };
}

/** A job file: read, checked, marked as a copy that is made now or as brought in with its log, and summed up. */
export function readImport({ body, at, entries }: ImportedFile): ImportReading {
  const outcome = importJob(new TextDecoder().decode(body));
  if (outcome.kind === "bad-file") return { kind: "bad-file", problems: outcome.problems.slice(0, MOST_PROBLEMS) };
  const document = entries ? markedBrought(outcome.document, at) : markedCopy(outcome.document, "file", at);
  return { kind: "ready", job: summarised(document, entries), questions: outcome.questions };
}

/** A kit file, read and checked. */
export function readKit(body: Uint8Array): KitReading {
  const outcome = readYaml(new TextDecoder().decode(body), kitSchema);
  return outcome.kind === "ok"
    ? { kind: "ready", kit: outcome.value }
    : { kind: "bad-file", problems: outcome.problems.slice(0, MOST_PROBLEMS) };
}

/** A job ready to be written, with what the log of its visit says; a new one has none. */
export function summarised(document: JobDocument, entries: readonly VisitEntry[] = []): ReadyJob {
  return { name: document.job.name, text: JSON.stringify(document), summary: jobSummary(document, entries, judge) };
}

function readJson(
  body: Uint8Array,
): { readonly kind: "ok"; readonly value: unknown } | { readonly kind: "bad-json"; readonly detail: string } {
  try {
    return { kind: "ok", value: JSON.parse(new TextDecoder().decode(body)) };
  } catch (error) {
    return { kind: "bad-json", detail: error instanceof Error ? error.message : "unreadable" };
  }
}
