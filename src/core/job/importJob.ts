import { jobDocumentSchema, type JobDocument } from "@/core/job/jobDocument";
import { upgradeJob } from "@/core/job/upgradeJob";
import type { Problem } from "@/core/problem";

/** A job with what is to be asked of it, or every problem of the file. */
export type ImportOutcome =
  /** With what an earlier version of the format left open, for a person to answer. */
  | { readonly kind: "job"; readonly document: JobDocument; readonly questions: readonly string[] }
  | { readonly kind: "bad-file"; readonly problems: readonly Problem[] };

/**
 * Read a `gormit-job` file. All of it or nothing: every problem is listed with its path, a field that the
 * format does not know among them, since it would be lost without a word.
 *
 * For example: `importJob("{")` gives { kind: "bad-file", problems: [{ path: [], message: "this is not JSON: …" }] }
 */
export function importJob(text: string): ImportOutcome {
  let raw: unknown;
  try {
    raw = JSON.parse(text);
  } catch (error) {
    return {
      kind: "bad-file",
      problems: [{ path: [], message: `this is not JSON: ${error instanceof Error ? error.message : "unreadable"}` }],
    };
  }
  const { document, questions } = upgradeJob(withoutRemark(raw));
  const parsed = jobDocumentSchema.safeParse(document);
  if (!parsed.success) {
    return {
      kind: "bad-file",
      problems: parsed.error.issues.map((issue) => ({
        path: issue.path.filter((key) => typeof key !== "symbol"),
        message: issue.message,
      })),
    };
  }
  const unknown = unknownFields(document, parsed.data, []);
  return unknown.length > 0
    ? { kind: "bad-file", problems: unknown }
    : { kind: "job", document: parsed.data, questions };
}

/** An export says what it leaves out; that is no part of the job. */
function withoutRemark(raw: unknown): unknown {
  if (!isRecord(raw) || !Array.isArray(raw.leavesOut)) return raw;
  const { leavesOut: _, ...job } = raw;
  return job;
}

/** Fields of the file that parsing dropped. */
function unknownFields(given: unknown, kept: unknown, path: readonly (string | number)[]): readonly Problem[] {
  if (Array.isArray(given) && Array.isArray(kept)) {
    return given.flatMap((item, at) => unknownFields(item, kept[at], [...path, at]));
  }
  if (!isRecord(given) || !isRecord(kept)) return [];
  return Object.entries(given).flatMap(([key, value]) =>
    Object.hasOwn(kept, key)
      ? unknownFields(value, kept[key], [...path, key])
      : [{ path: [...path, key], message: "the format knows no such field" }],
  );
}

function isRecord(value: unknown): value is Record<string, unknown> {
  return typeof value === "object" && value !== null && !Array.isArray(value);
}
