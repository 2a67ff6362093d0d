import { z } from "zod";
import { plainText, type Sentence } from "@/core/sentence";

/** `stop`: do not go on; `fix`: wrong, put it right; `note`: worth knowing. */
const severitySchema = z.enum(["stop", "fix", "note"]);

/** The stage whose work a finding belongs to, in the order of work. */
const stageSchema = z.enum([
  "plan",
  "place",
  "wire",
  "visit",
  "prove",
  "limit",
  "divert",
  "online",
  "handover",
  "bench",
]);

/** What a finding is about, so that every screen can show it where it belongs. */
const subjectSchema = z.discriminatedUnion("kind", [
  z.object({ kind: z.literal("ct"), id: z.string(), meter: z.string().optional(), input: z.int().optional() }),
  z.object({ kind: z.literal("input"), meter: z.string(), input: z.int() }),
  z.object({ kind: z.literal("meter"), meter: z.string() }),
  z.object({ kind: z.literal("node"), node: z.string() }),
  z.object({ kind: z.literal("link-device"), device: z.string() }),
  z.object({ kind: z.literal("step"), step: z.string() }),
  z.object({ kind: z.literal("job") }),
]);

/** The one form that every check on every page makes: numbers where there are any, and exactly one cure. */
export const findingSchema = z.object({
  /** The same finding of the same subject has the same id, also after the plan was changed and changed back. */
  id: z.string(),
  /** Stable name of the check, the same for every subject. */
  code: z.string(),
  severity: severitySchema,
  stage: stageSchema,
  subject: subjectSchema,
  /** What is wrong, in a few words without a number. */
  title: z.string(),
  /** The same of this subject, with its numbers. */
  detail: z.string(),
  cure: z.string(),
  source: z.string(),
});

/** A finding as a route gives it, and as a summary keeps it: in English, with decimal points. */
export type PlainFinding = Readonly<z.output<typeof findingSchema>>;

/** A finding as a check makes it: its sentences carry their figures, and are written out where they are shown. */
export type Finding = Omit<PlainFinding, "detail" | "cure"> & {
  readonly detail: Sentence;
  readonly cure: Sentence;
};

/** An answer of a route as core has it, before its findings are written out. */
export type WithFindings<Answer extends { readonly findings: unknown }> = Omit<Answer, "findings"> & {
  readonly findings: readonly Finding[];
};

/** How much a finding matters. */
export type FindingSeverity = z.output<typeof severitySchema>;
/** The stage whose work a finding belongs to. */
export type FindingStage = z.output<typeof stageSchema>;

/** How many findings there are of each severity. */
export type FindingCounts = Readonly<Record<FindingSeverity, number>>;

/** @example countFindings([]) // { stop: 0, fix: 0, note: 0 } */
export function countFindings(findings: readonly Finding[]): FindingCounts {
  const of = (severity: FindingSeverity) => findings.filter((finding) => finding.severity === severity).length;
  return { stop: of("stop"), fix: of("fix"), note: of("note") };
}

/** For example: `plainFinding({ ...finding, detail: said`${1.5} m` }).detail` gives "1.5 m" */
export function plainFinding(finding: Finding): PlainFinding {
  return { ...finding, detail: plainText(finding.detail), cure: plainText(finding.cure) };
}
