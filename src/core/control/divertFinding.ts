import type { Sentence } from "@/core/sentence";
import type { Finding } from "@/core/findings";

/** A finding of the surplus that is about one device of the plan. */
export function divertFinding(
  code: string,
  severity: Finding["severity"],
  node: string,
  title: string,
  detail: Sentence,
  cure: Sentence,
  source: string,
): Finding {
  return {
    id: `${code}:${node}`,
    code,
    severity,
    stage: "divert",
    subject: { kind: "node", node },
    title,
    detail,
    cure,
    source,
  };
}
