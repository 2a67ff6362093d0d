import type { z } from "zod";
import { JOB_PATH, LOG_PATH, MANIFEST_PATH, REPORT_PATH, SUMS_PATH } from "@/core/handover/bundle/bundleParts";
import { keptVersionSchema, type KeptVersion } from "@/core/handover/bundle/keptVersion";
import {
  manifestProblems,
  manifestSchema,
  sumsProblems,
  type BundleFile,
  type BundleManifest,
} from "@/core/handover/bundle/manifest";
import { checkChain, type ChainedLine } from "@/core/handover/logChain";
import { reportSchema } from "@/core/handover/report/reportSchema";
import { problemsOf, type Problem } from "@/core/problem";
import { visitEntrySchema, type VisitEntry } from "@/core/visit/visitEntry";

/** A file of a bundle with its text, where it is one that is read. */
export interface UnpackedFile extends BundleFile {
  readonly text: string | undefined;
}

/** A bundle that is as it was made, ready to be brought in; or everything that is not. */
export type BundleOutcome =
  | {
      readonly kind: "whole";
      readonly manifest: BundleManifest;
      readonly job: string;
      readonly entries: readonly VisitEntry[];
      readonly handovers: readonly (KeptVersion & { readonly report: string })[];
    }
  | { readonly kind: "bad-file"; readonly problems: readonly Problem[] };

const BROKEN_WORDS = { changed: "was changed", "not-chained": "was never chained" } as const;

/**
 * Whether a bundle is as it was made: each file by its fingerprint, the log line by line, the hand overs by the
 * fingerprints that stand on their pages.
 *
 * For example: one byte of a photograph changed: its path, and that it was changed.
 *
 * @param hashOf SHA-256 of a text (FIPS 180-4), hexadecimal.
 */
export function checkBundle(files: readonly UnpackedFile[], hashOf: (text: string) => string): BundleOutcome {
  const textOf = (path: string) => files.find((file) => file.path === path)?.text;
  const manifest = parsed(MANIFEST_PATH, textOf(MANIFEST_PATH), manifestSchema);
  if (manifest.kind === "bad-file") return manifest;
  const problems = [
    ...manifestProblems(manifest.value, files),
    ...sumsProblems(textOf(SUMS_PATH) ?? "", files),
    ...[JOB_PATH, LOG_PATH, REPORT_PATH]
      .filter((path) => textOf(path) === undefined)
      .map((path): Problem => ({ path: [path], message: "is missing: it is no whole bundle" })),
  ];
  if (problems.length > 0) return { kind: "bad-file", problems };
  const log = readLog(textOf(LOG_PATH)!, manifest.value.logHead, hashOf);
  const handovers = readHandovers(files, hashOf);
  const report = parsed(REPORT_PATH, textOf(REPORT_PATH), reportSchema);
  const bad = [log, handovers, report].flatMap((own) => (own.kind === "bad-file" ? own.problems : []));
  if (log.kind === "bad-file" || handovers.kind === "bad-file" || bad.length > 0)
    return { kind: "bad-file", problems: bad };
  return {
    kind: "whole",
    manifest: manifest.value,
    job: textOf(JOB_PATH)!,
    entries: log.value,
    handovers: handovers.value,
  };
}

type Read<T> =
  { readonly kind: "read"; readonly value: T } | { readonly kind: "bad-file"; readonly problems: readonly Problem[] };

function parsed<S extends z.ZodType>(path: string, text: string | undefined, schema: S): Read<z.output<S>> {
  if (text === undefined) return refusal(path, "is missing: it is no bundle of Gormit");
  let raw: unknown;
  try {
    raw = JSON.parse(text);
  } catch {
    return refusal(path, "is not JSON");
  }
  const read = schema.safeParse(raw);
  if (read.success) return { kind: "read", value: read.data };
  const { problems } = problemsOf(read.error);
  return { kind: "bad-file", problems: problems.map((own) => ({ ...own, path: [path, ...own.path] })) };
}

function refusal(path: string, message: string): { readonly kind: "bad-file"; readonly problems: readonly Problem[] } {
  return { kind: "bad-file", problems: [{ path: [path], message }] };
}

/** Each line is its hash, a space and the entry. */
function readLog(text: string, head: string, hashOf: (text: string) => string): Read<readonly VisitEntry[]> {
  const lines = text
    .split("\n")
    .filter((line) => line !== "")
    .map((line): ChainedLine => ({ hash: line.split(" ", 1)[0], text: line.slice(line.indexOf(" ") + 1) }));
  const check = checkChain(lines, hashOf);
  if (check.broken) return refusal(LOG_PATH, `line ${check.broken.at} ${BROKEN_WORDS[check.broken.why]}`);
  if (check.head !== head) return refusal(LOG_PATH, "does not end as the manifest says: lines are missing");
  const entries: VisitEntry[] = [];
  for (const [at, line] of lines.entries()) {
    const entry = parsed(`${LOG_PATH}, line ${at + 1}`, line.text, visitEntrySchema);
    if (entry.kind === "bad-file") return entry;
    entries.push(entry.value);
  }
  return { kind: "read", value: entries };
}

function readHandovers(
  files: readonly UnpackedFile[],
  hashOf: (text: string) => string,
): Read<readonly (KeptVersion & { readonly report: string })[]> {
  const found: (KeptVersion & { readonly report: string })[] = [];
  for (const { path, text } of files.filter((file) => /^handovers\/\d+\.json$/.test(file.path))) {
    const kept = parsed(path, text, keptVersionSchema);
    if (kept.kind === "bad-file") return kept;
    const report = files.find((file) => file.path === path.replace(".json", ".report.json"))?.text;
    if (report === undefined) return refusal(path, "has no report beside it");
    if (hashOf(report) !== kept.value.sha256) return refusal(path, "has another report than the one that was signed");
    found.push({ ...kept.value, report });
  }
  return { kind: "read", value: found };
}
