import type { Finding } from "@/core/findings";
import type { Sentence } from "@/core/sentence";

type MakeFinding = (
  code: string,
  severity: Finding["severity"],
  title: string,
  detail: Sentence,
  cure: Sentence,
) => Finding;

/** Makes findings of the limit, about the job as a whole, all with one source. */
export function limitFinding(source: string): MakeFinding {
  return (code, severity, title, detail, cure) => ({
    id: code,
    code,
    severity,
    stage: "limit",
    subject: { kind: "job" },
    title,
    detail,
    cure,
    source,
  });
}
