import type { Finding } from "@/core/findings";
import type { JobDocument } from "@/core/job/jobDocument";

/** Findings that are open, and those that somebody let stand with a reason. */
export interface SortedFindings {
  readonly open: readonly Finding[];
  readonly accepted: readonly {
    readonly finding: Finding;
    readonly reason: string;
    readonly at: string;
    readonly person: string;
  }[];
}

/**
 * Part findings by whether they were accepted. A stop stays open whatever was written beside it: it is dangerous or
 * makes every reading worthless, and a reason does not change that.
 */
export function sortFindings(findings: readonly Finding[], accepted: JobDocument["accepted"]): SortedFindings {
  const reasonOf = new Map(accepted.map((entry) => [entry.finding, entry]));
  const isAccepted = (finding: Finding) => finding.severity !== "stop" && reasonOf.has(finding.id);
  return {
    open: findings.filter((finding) => !isAccepted(finding)),
    accepted: findings.filter(isAccepted).map((finding) => {
      const { reason, at, person } = reasonOf.get(finding.id)!;
      return { finding, reason, at, person };
    }),
  };
}

/** Accept a finding with a reason; a new reason replaces an old one. */
export function acceptFinding(
  document: JobDocument,
  { id, title }: Pick<Finding, "id" | "title">,
  { reason, at, person }: { readonly reason: string; readonly at: string; readonly person: string },
): JobDocument {
  return {
    ...document,
    accepted: [
      ...document.accepted.filter((entry) => entry.finding !== id),
      { finding: id, title, person, reason, at },
    ],
  };
}

/** Take an acceptance back. */
export function withdrawAcceptance(document: JobDocument, finding: string): JobDocument {
  return { ...document, accepted: document.accepted.filter((entry) => entry.finding !== finding) };
}
