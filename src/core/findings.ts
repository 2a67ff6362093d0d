/** `stop`: do not go on; `fix`: wrong, put it right; `note`: worth knowing. */
export type FindingLevel = "stop" | "fix" | "note";

/** The stage whose work a finding belongs to, in the order of work. */
export type FindingStage = "plan" | "place" | "prove";

/** What a finding is about, so that every screen can show it where it belongs. */
export type FindingSubject =
  | { readonly kind: "ct"; readonly id: string; readonly meter?: string; readonly input?: number }
  | { readonly kind: "input"; readonly meter: string; readonly input: number }
  | { readonly kind: "meter"; readonly meter: string }
  | { readonly kind: "node"; readonly node: string }
  | { readonly kind: "job" };

/** The one form that every check on every page makes: a number where there is one, and exactly one cure. */
export interface Finding {
  readonly id: string;
  readonly level: FindingLevel;
  readonly stage: FindingStage;
  readonly subject: FindingSubject;
  readonly text: string;
  readonly cure: string;
  readonly source: string;
}

/** How many findings there are of each level. */
export type FindingCounts = Readonly<Record<FindingLevel, number>>;

/** @example countFindings([]) // { stop: 0, fix: 0, note: 0 } */
export function countFindings(findings: readonly Finding[]): FindingCounts {
  const of = (level: FindingLevel) => findings.filter((finding) => finding.level === level).length;
  return { stop: of("stop"), fix: of("fix"), note: of("note") };
}
