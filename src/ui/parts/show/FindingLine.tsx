import type { Finding } from "@/core/findings";
import { FindingMark } from "@/ui/parts/show/FindingMark";
import { useSaid } from "@/ui/parts/browser/useNumberStyle";

/** A finding in one paragraph, where it belongs: its severity, its numbers, its cure. */
export function FindingLine({ finding }: { finding: Finding }) {
  const said = useSaid();
  return (
    <p className="text-sm leading-snug">
      <FindingMark level={finding.severity} /> {said(finding.detail)} <b>{said(finding.cure)}.</b>
    </p>
  );
}
