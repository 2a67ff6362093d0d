"use client";

import { faultText } from "@/core/flows/cure";
import { fittingWith, type Hypothesis } from "@/core/flows/diagnose";
import { siteWithFitting } from "@/core/flows/fitting";
import { percent } from "@/core/job/proveFindings";
import { BoardSketch } from "@/ui/board/BoardSketch";
import { faultTags } from "@/ui/prove/faultTags";
import type { Prove } from "@/ui/prove/useProve";
import { useWorkspace } from "@/ui/workspace/workspaceContext";
import { Say } from "@/ui/parts/show/Say";

const MOST_SHOWN = 6;
const LEAST_PROBABILITY = 0.0005;

/** All explanations worth naming, likeliest first, each with its cure and its picture. */
export function Explanations({ prove }: { prove: Prove }) {
  const {
    job,
    diagnosis: { diagnosis },
  } = useWorkspace();
  if (!diagnosis || !prove.hasReadings) return null;
  const shown = diagnosis.hypotheses
    .filter((hypothesis, at) => at === 0 || hypothesis.probability >= LEAST_PROBABILITY)
    .slice(0, MOST_SHOWN);
  return (
    <section aria-label="Explanations">
      <h3 className="mb-2 text-lg font-bold">Explanations, likeliest first</h3>
      <ol className="space-y-2">
        {shown.map((hypothesis, at) => (
          <li key={at}>
            <details className="panel p-3">
              <summary className="press grid cursor-pointer grid-cols-[6rem_1fr] items-center gap-2">
                <span className="reading text-right font-semibold">{percent(hypothesis.probability)}</span>
                <span>{title(prove, hypothesis)}</span>
              </summary>
              <div className="mt-2 grid gap-3 lg:grid-cols-2">
                <div className="space-y-1">
                  {hypothesis.cure.map((cure) => (
                    <p key={cure} className="font-semibold">
                      {cure}.
                    </p>
                  ))}
                  <p className="quiet text-sm">
                    Misses the readings by <Say>{hypothesis.residual.toFixed(2)}</Say> squared standard deviations a
                    reading; about 1 is what chance does.
                  </p>
                  {hypothesis.alternatives.length > 0 && (
                    <p className="text-sm">
                      Reads the same whatever is switched on:{" "}
                      {hypothesis.alternatives
                        .slice(0, 4)
                        .map((faults) => faults.map((fault) => faultText(prove.site, fault)).join(" and "))
                        .join("; or ")}
                      .
                    </p>
                  )}
                </div>
                <BoardSketch
                  site={siteWithFitting(prove.site, fittingWith(prove.site, hypothesis.faults))}
                  scheme={job.document.job.colourScheme}
                  marked={faultTags(prove.site, hypothesis.faults)}
                  label={`Fitted as: ${title(prove, hypothesis)}`}
                />
              </div>
            </details>
          </li>
        ))}
      </ol>
    </section>
  );
}

function title({ site }: Prove, { faults }: Hypothesis): string {
  return faults.length === 0 ? "As planned" : faults.map((fault) => faultText(site, fault)).join("; ");
}
