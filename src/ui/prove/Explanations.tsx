"use client";

import { joinedSentences } from "@/core/sentence";
import { useSaid } from "@/ui/parts/browser/useNumberStyle";
import { saidCure, saidFaults } from "@/core/flows/cure";
import { fittingWith, type Hypothesis } from "@/core/flows/diagnose";
import { siteWithFitting } from "@/core/flows/fitting";
import { percent } from "@/core/job/proveFindings";
import { BoardSketch } from "@/ui/board/BoardSketch";
import { faultTags } from "@/ui/prove/faultTags";
import type { ProveDesk } from "@/ui/prove/useProve";
import { useJob, useVerdict } from "@/ui/workspace/workspaceContext";
import { Say } from "@/ui/parts/show/Say";
import { PROVE_WORDS } from "@/ui/words/proveWords";

const MOST_SHOWN = 6;
const LEAST_PROBABILITY = 0.0005;

/** All explanations worth naming, likeliest first, each with its cure and its picture. */
export function Explanations({ prove }: { prove: ProveDesk }) {
  const { diagnosis } = useVerdict();
  if (!diagnosis || !prove.hasReadings) return null;
  const shown = diagnosis.hypotheses
    .filter((hypothesis, at) => at === 0 || hypothesis.probability >= LEAST_PROBABILITY)
    .slice(0, MOST_SHOWN);
  return (
    <section aria-label={PROVE_WORDS.explanations}>
      <h3 className="mb-2 text-lg font-bold">{PROVE_WORDS.explanationsLikeliestFirst}</h3>
      <ol className="space-y-2">
        {shown.map((hypothesis, at) => (
          <li key={at}>
            <Explanation prove={prove} hypothesis={hypothesis} />
          </li>
        ))}
      </ol>
    </section>
  );
}

function Explanation({ prove, hypothesis }: { prove: ProveDesk; hypothesis: Hypothesis }) {
  const { document } = useJob();
  const said = useSaid();
  return (
    <details className="panel p-3">
      <summary className="press flex cursor-pointer items-center gap-2">
        <span className="reading w-20 flex-none text-right font-semibold">{percent(hypothesis.probability)}</span>
        <span>{said(saidFaults(prove.site, hypothesis.faults))}</span>
      </summary>
      <div className="mt-2 grid gap-3 lg:grid-cols-2">
        <div className="space-y-1">
          {hypothesis.faults.map((fault, which) => (
            <p key={which} className="font-semibold">
              {said(saidCure(prove.site, fault))}.
            </p>
          ))}
          <p className="quiet text-sm">
            {PROVE_WORDS.missesTheReadingsBy} <Say>{hypothesis.residual.toFixed(2)}</Say>{" "}
            {PROVE_WORDS.squaredStandardDeviationsAReading}
          </p>
          {hypothesis.alternatives.length > 0 && (
            <p className="text-sm">
              {PROVE_WORDS.readsTheSameWhateverIsSwitchedOn(
                said(
                  joinedSentences(
                    hypothesis.alternatives.slice(0, 4).map((faults) => saidFaults(prove.site, faults, " and ")),
                    "; or ",
                  ),
                ),
              )}
            </p>
          )}
        </div>
        <BoardSketch
          site={siteWithFitting(prove.site, fittingWith(prove.site, hypothesis.faults))}
          scheme={document.job.colourScheme}
          marked={faultTags(prove.site, hypothesis.faults)}
          label={PROVE_WORDS.fittedAs(said(saidFaults(prove.site, hypothesis.faults)))}
        />
      </div>
    </details>
  );
}
