"use client";

import { ArrowLeft, ArrowRight } from "lucide-react";
import { useState } from "react";
import { maybeHere, meanwhile, nextStep } from "@/core/visit/nextSteps";
import { isOver, openGates, stateOf } from "@/core/visit/visitState";
import { waitText, type VisitStep } from "@/core/visit/visitStep";
import { StepCard } from "@/ui/visit/StepCard";
import type { VisitDesk } from "@/ui/visit/useVisitStage";
import { VISIT_WORDS } from "@/ui/words/visitWords";

const MOST_MEANWHILE = 6;

/** The present step, large; the one before and after by thumb; what can be done meanwhile, this place first. */
export function NowPart({
  desk,
  chosen,
  onChoose,
}: {
  desk: VisitDesk;
  chosen: string | undefined;
  onChoose: (step: string | undefined) => void;
}) {
  const { sheet, state, planned, entries, person } = desk;
  const order = planned?.schedule.order ?? [];
  const [held, setHeld] = useState<string | undefined>();
  const isHeld = ({ id }: VisitStep) =>
    id === held && !isOver(stateOf(state, id)) && stateOf(state, id).status !== "waiting";
  // What a mate records meanwhile, or a new plan, takes no step out of the hand that is at it.
  const mine = sheet.steps.find((step) => isHeld(step) && openGates(sheet, state, step).length === 0);
  const current =
    sheet.steps.find(({ id }) => id === chosen) ??
    mine ??
    nextStep(sheet, state, order, maybeHere(sheet, entries, person));
  if (current && chosen === undefined && current.id !== held) setHeld(current.id);
  if (!current)
    return (
      <p className="panel mx-auto max-w-3xl p-6 text-2xl font-bold">
        {sheet.steps.length === 0 ? VISIT_WORDS.thePlanHasNothingToDoYetGive : VISIT_WORDS.everyStepIsOverAnotherVisit}
      </p>
    );
  const at = sheet.steps.indexOf(current);
  const others = meanwhile(sheet, state, current, order).slice(0, MOST_MEANWHILE);
  const isBehind = isOver(stateOf(state, current.id));
  return (
    <div className="mx-auto grid max-w-6xl gap-4 lg:grid-cols-[1fr_20rem]">
      <div>
        <StepCard key={current.id} desk={desk} step={current} number={at + 1} onOver={() => onChoose(undefined)} />
        <StepNav at={at} onChoose={onChoose} desk={desk} chosen={chosen} isBehind={isBehind} />
      </div>
      <Meanwhile others={others} onChoose={onChoose} current={current} desk={desk} />
    </div>
  );
}

function StepNav({
  at,
  onChoose,
  desk,
  chosen,
  isBehind,
}: {
  at: number;
  onChoose: (step: string | undefined) => void;
  desk: VisitDesk;
  chosen: string | undefined;
  isBehind: boolean;
}) {
  const { sheet } = desk;
  return (
    <nav
      aria-label={VISIT_WORDS.steps}
      className="bottom-0 mt-3 grid max-lg:sticky grid-cols-[1fr_auto_1fr] gap-2 bg-base-100 py-2"
    >
      <button
        type="button"
        className="btn press h-14"
        disabled={at === 0}
        onClick={() => onChoose(sheet.steps[at - 1]!.id)}
      >
        <ArrowLeft size={22} aria-hidden />
        {VISIT_WORDS.back}
      </button>
      {chosen === undefined && !isBehind ? (
        <button type="button" className="btn btn-primary press h-14" onClick={goOn}>
          {VISIT_WORDS.goOn}
        </button>
      ) : (
        <button type="button" className="btn btn-ghost press h-14" onClick={() => onChoose(undefined)}>
          {VISIT_WORDS.whatIsDue}
        </button>
      )}
      <button
        type="button"
        className="btn press h-14"
        disabled={at === sheet.steps.length - 1}
        onClick={() => onChoose(sheet.steps[at + 1]!.id)}
      >
        {VISIT_WORDS.next}
        <ArrowRight size={22} aria-hidden />
      </button>
    </nav>
  );
}

/** Bring the next thing of the step in sight that is to be filled in or pressed, and the hand to it. */
function goOn(): void {
  const evidence = document.querySelector('form[aria-label="Evidence"]');
  const fields = [...(evidence?.querySelectorAll<HTMLInputElement | HTMLSelectElement>("input, select") ?? [])];
  const next =
    document.querySelector<HTMLElement>("[data-begins]:not(:disabled)") ??
    fields.find((field) => isOpen(field)) ??
    evidence?.querySelector<HTMLElement>("button[type=submit]");
  next?.scrollIntoView({ block: "center" });
  next?.focus({ preventScroll: true });
}

/** Whether a field waits for an answer; of a choice, where none of its options is chosen. */
function isOpen(field: HTMLInputElement | HTMLSelectElement): boolean {
  if (field.disabled) return false;
  if (field instanceof HTMLInputElement && field.type === "radio")
    return field.form?.querySelector(`input[type=radio]:checked`) === null;
  return field.value === "";
}

function Meanwhile({
  others,
  onChoose,
  current,
  desk,
}: {
  others: VisitStep[];
  onChoose: (step: string | undefined) => void;
  current: VisitStep;
  desk: VisitDesk;
}) {
  const { placeName } = desk;
  return (
    <section aria-label={VISIT_WORDS.meanwhile} className="space-y-2">
      <h3 className="font-bold">{VISIT_WORDS.meanwhile}</h3>
      {others.length === 0 && <p className="quiet text-sm">{VISIT_WORDS.nothingElseCanBeDoneYet}</p>}
      <ul className="space-y-2">
        {others.map((step) => (
          <li key={step.id}>
            <button
              type="button"
              className="press panel block w-full p-2 text-left leading-tight"
              onClick={() => onChoose(step.id)}
            >
              <b className="block">{step.title}</b>
              <span className="quiet text-sm">
                {VISIT_WORDS.min(
                  step.place === current.place ? VISIT_WORDS.here : placeName(step.place),
                  step.activeMin,
                  step.waitMin > 0 ? VISIT_WORDS.andUnattended(waitText(step)) : "",
                )}
              </span>
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
