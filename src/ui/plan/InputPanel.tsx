"use client";

import { LocateFixed, Trash2, X } from "lucide-react";
import { StageLink } from "@/ui/workspace/frame/stageMoves";
import { removeInput } from "@/core/edits/editPlan";
import { resolve } from "@/core/plan/resolve";
import type { PlanInput } from "@/core/plan/resolvedPlan";
import { inputTag } from "@/core/site/inputTag";
import { FindingLine } from "@/ui/parts/show/FindingLine";
import { ClampChoice } from "@/ui/plan/ClampChoice";
import { ErrorBand } from "@/ui/plan/ErrorBand";
import { LinkAdvice } from "@/ui/plan/LinkAdvice";
import { RoleChoice } from "@/ui/plan/RoleChoice";
import { SchoolChoice } from "@/ui/plan/SchoolChoice";
import { useJob } from "@/ui/workspace/workspaceContext";
import type { PlanDesk, PlanPick } from "@/ui/plan/usePlan";
import type { EditorSnapshot } from "@/ui/workspace/safekeeping/jobEditor";
import { PLAN_WORDS } from "@/ui/words/planWords";

/**
 * One input of a meter: what it is for and where that is measured, the CT, its errors, its methods, the way to the
 * reader.
 */
export function InputPanel({ plan, picked }: { plan: PlanDesk; picked: PlanPick & { kind: "input" } }) {
  const { site, document, findings } = plan;
  const job = useJob();
  const setup = resolve(document)
    .meterById.get(picked.meter)
    ?.inputs.find(({ input }) => input.n === picked.input);
  if (!setup) return null;
  const { meter, input } = setup;
  const own = findings.filter(
    (finding) =>
      finding.subject.kind === "input" && finding.subject.meter === meter.id && finding.subject.input === input.n,
  );
  return (
    <section
      aria-label={PLAN_WORDS.input(inputTag(site, meter.id, input.n))}
      className="min-h-0 flex-1 overflow-auto border-t border-base-300 bg-base-200 p-3 max-md:flex-none"
    >
      <InputHead plan={plan} setup={setup} job={job} />
      {own.map((finding) => (
        <FindingLine key={finding.id} finding={finding} />
      ))}
      <div className="mt-2 grid gap-5 xl:grid-cols-2">
        <div className="space-y-4">
          <RoleChoice plan={plan} setup={setup} />
          <ClampChoice plan={plan} setup={setup} />
        </div>
        <div className="space-y-4">
          <ErrorBand plan={plan} setup={setup} />
          <SchoolChoice plan={plan} setup={setup} />
          <LinkAdvice plan={plan} setup={setup} />
        </div>
      </div>
    </section>
  );
}

function InputHead({ plan, setup, job }: { plan: PlanDesk; setup: PlanInput; job: EditorSnapshot }) {
  const { site, pick, edit } = plan;
  const { meter, input } = setup;
  return (
    <div className="flex flex-wrap items-start gap-2">
      <h3 className="mr-auto text-lg font-bold max-md:basis-full">
        {PLAN_WORDS.inputOf(inputTag(site, meter.id, input.n), input.n, meter.name)}
      </h3>
      <StageLink
        className="btn btn-sm press"
        href={`/jobs/${job.id}/place?meter=${encodeURIComponent(meter.id)}&input=${input.n}`}
      >
        <LocateFixed size={16} aria-hidden />
        {PLAN_WORDS.showInPlace}
      </StageLink>
      <button
        type="button"
        className="btn btn-sm press"
        onClick={() => {
          pick(undefined);
          edit(removeInput(meter.id, input.n));
        }}
      >
        <Trash2 size={16} aria-hidden />
        {PLAN_WORDS.remove}
      </button>
      <button type="button" className="btn btn-ghost press px-2" onClick={() => pick(undefined)}>
        <X size={18} aria-hidden />
        <span className="sr-only">{PLAN_WORDS.closeTheInput}</span>
      </button>
    </div>
  );
}
