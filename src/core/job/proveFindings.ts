import { said, type Sentence } from "@/core/sentence";
import type { Finding } from "@/core/findings";
import { saidCure, saidFault } from "@/core/flows/cure";
import type { Diagnosis } from "@/core/flows/diagnose";
import type { Site } from "@/core/site/planSchema";

const SOURCE = "Readings seen against the plan, exact Gaussian evidence";

/** What a diagnosis finds, in the one finding form: each fault of the best explanation, or that none is sure. */
export function proveFindings(site: Site, diagnosis: Diagnosis): readonly Finding[] {
  const best = diagnosis.hypotheses[0];
  const whole = (severity: Finding["severity"], title: string, detail: Sentence, cure: Sentence): Finding => ({
    id: `verdict:${diagnosis.verdict}`,
    code: `verdict-${diagnosis.verdict}`,
    severity,
    stage: "prove",
    subject: { kind: "job" },
    title,
    detail,
    cure,
    source: SOURCE,
  });
  switch (diagnosis.verdict) {
    case "as-planned":
      return [];
    case "faults-found":
      return (best?.faults ?? []).map((fault, at): Finding => ({
        id: `fault:${fault.kind}:${fault.meter}:${"input" in fault ? fault.input : at}`,
        code: `fault-${fault.kind}`,
        severity: "fix",
        stage: "prove",
        title: "Readings show a fault in the fitting",
        subject:
          "input" in fault
            ? { kind: "input", meter: fault.meter, input: fault.input }
            : { kind: "meter", meter: fault.meter },
        detail: said`${saidFault(site, fault)} (${percent(best!.probability)}).`,
        cure: saidCure(site, fault),
        source: SOURCE,
      }));
    case "ambiguous":
      return [
        whole(
          "note",
          "Not certain yet",
          said`Not certain yet: the likeliest explanation has ${percent(best?.probability ?? 0)}.`,
          diagnosis.nextTests[0]?.label ?? "Check the CTs by eye",
        ),
      ];
    case "reading-doubtful":
      return [
        whole(
          "note",
          "A reading is doubtful",
          said`${diagnosis.doubt?.why ?? "One odd reading explains the sheet as well as a fault does"}.`,
          diagnosis.nextTests[0]?.label ?? "Read it again",
        ),
      ];
    case "not-explained":
      return [
        whole(
          "fix",
          "Not explained",
          "No combination of faults explains what was seen.",
          "Check the typed readings and the powers of the known devices, then look for a device that the " +
            "plan does not have",
        ),
      ];
  }
}

/** @example percent(0.981) // "98 %" */
export function percent(share: number): string {
  if (share > 0.995 && share < 1) return "over 99 %";
  return share > 0 && share < 0.005 ? "under 1 %" : `${Math.round(share * 100)} %`;
}
