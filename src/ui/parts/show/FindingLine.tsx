import type { Finding } from "@/core/findings";
import { FindingMark } from "@/ui/parts/show/FindingMark";
import { Say } from "@/ui/parts/show/Say";

/** A finding in one paragraph, where it belongs: its severity, its numbers, its cure. */
export function FindingLine({ finding }: { finding: Finding }) {
  return (
    <p className="text-sm leading-snug">
      <FindingMark level={finding.severity} /> <Say>{finding.detail}</Say>{" "}
      <b>
        <Say>{finding.cure}</Say>.
      </b>
    </p>
  );
}
