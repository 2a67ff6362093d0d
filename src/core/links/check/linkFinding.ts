import type { Sentence } from "@/core/sentence";
import type { Finding } from "@/core/findings";

type MakeFinding = (
  code: string,
  severity: Finding["severity"],
  device: string | undefined,
  title: string,
  detail: Sentence,
  cure: Sentence,
) => Finding;

/** Makes the findings of one kind of link, all with its source; of a device, or of the link as a whole. */
export function linkFinding(source: string): MakeFinding {
  return (code, severity, device, title, detail, cure) => ({
    id: device === undefined ? code : `${code}:${device}`,
    code,
    severity,
    stage: "wire",
    subject: device === undefined ? { kind: "job" } : { kind: "link-device", device },
    title,
    detail,
    cure,
    source,
  });
}
