"use client";

import { VISIT_PHASES, PHASE_WORDS, waitText } from "@/core/visit/visitStep";
import { stateOf } from "@/core/visit/visitState";
import { visitProgress } from "@/core/visit/sheetSchedule";
import { FindingLine } from "@/ui/parts/show/FindingLine";
import { VisitSettingsForm } from "@/ui/visit/VisitSettingsForm";
import { StatusMark } from "@/ui/visit/StatusMark";
import type { VisitDesk } from "@/ui/visit/useVisitStage";
import { VISIT_WORDS } from "@/ui/words/visitWords";

/** The whole visit in one order, grouped by stage; what of it is a choice stands above. */
export function SheetPart({ desk, onShow }: { desk: VisitDesk; onShow: (step: string) => void }) {
  const { sheet, state, placeName } = desk;
  const progress = visitProgress(sheet, state);
  return (
    <div className="mx-auto max-w-6xl space-y-4">
      <VisitSettingsForm desk={desk} />
      {sheet.findings.map((finding) => (
        <FindingLine key={finding.id} finding={finding} />
      ))}
      <p role="status">
        {VISIT_WORDS.ofStepsDoneOrSkipped(
          progress.over,
          progress.all,
          progress.stopped > 0 ? VISIT_WORDS.stopped(progress.stopped) : "",
        )}
      </p>
      {VISIT_PHASES.filter((stage) => sheet.steps.some((step) => step.stage === stage)).map((stage) => (
        <section key={stage} aria-label={PHASE_WORDS[stage]}>
          <h3 className="mb-1 font-bold">{PHASE_WORDS[stage]}</h3>
          <ol className="divide-y divide-base-300 rounded-md border border-base-300">
            {sheet.steps
              .filter((step) => step.stage === stage)
              .map((step) => (
                <li key={step.id}>
                  <button
                    type="button"
                    className="press grid w-full grid-cols-[2.5rem_1fr_auto] items-center gap-x-3 px-2 py-1 text-left"
                    onClick={() => onShow(step.id)}
                  >
                    <span className="reading quiet text-right">{sheet.steps.indexOf(step) + 1}</span>
                    <span className="min-w-0 leading-tight">
                      <b>{step.title}</b>
                      {step.isGate && (
                        <span className="ml-2 rounded border border-warning px-1 text-xs">{VISIT_WORDS.gate}</span>
                      )}
                      <span className="quiet block text-sm">
                        {VISIT_WORDS.minWith(
                          placeName(step.place),
                          step.activeMin,
                          step.waitMin > 0 ? VISIT_WORDS.thenUnattended(waitText(step)) : "",
                        )}
                      </span>
                    </span>
                    <StatusMark state={stateOf(state, step.id)} />
                  </button>
                </li>
              ))}
          </ol>
        </section>
      ))}
    </div>
  );
}
