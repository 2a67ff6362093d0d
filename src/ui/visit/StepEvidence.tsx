"use client";

import { Check } from "lucide-react";
import { useState } from "react";
import { reasonSchema } from "@/core/visit/visitEntry";
import {
  isComplete,
  isOver,
  outsideLimits,
  recordedText,
  stateOf,
  type Recorded,
  type StepState,
} from "@/core/visit/visitState";
import type { VisitStep } from "@/core/visit/visitStep";
import { goToRed } from "@/ui/parts/form/redField";
import { TextForm } from "@/ui/parts/form/TextForm";
import { useWhen } from "@/ui/parts/browser/useWhen";
import { EvidenceFields, serialProblem } from "@/ui/visit/evidence/EvidenceFields";
import type { VisitDesk } from "@/ui/visit/useVisitStage";
import { VISIT_WORDS } from "@/ui/words/visitWords";

interface Props {
  readonly desk: VisitDesk;
  readonly step: VisitStep;
  readonly isBlocked: boolean;
  readonly onOver: () => void;
}

/**
 * What shows that a step is done: values with their limits, a lamp, a serial number, or a tick; or why it is skipped.
 */
export function StepEvidence({ desk, step, isBlocked, onOver }: Props) {
  const { state, record, skip, person } = desk;
  const own = stateOf(state, step.id);
  const [recorded, setRecorded] = useState<Recorded>(() => stoppedAt(own));
  // Where something runs by itself, its start comes first.
  const isFirst = own.status === "waiting" || !step.waiting;
  if (isOver(own)) return <OverStep own={own} step={step} desk={desk} />;
  const problem = serialProblem(recorded.serial);
  const isReady = isComplete(step, recorded) && !isBlocked && problem === undefined;
  return (
    <div className="space-y-3">
      <form
        aria-label={VISIT_WORDS.evidence}
        className="space-y-3"
        onSubmit={(event) => {
          event.preventDefault();
          if (!isReady || goToRed(event.currentTarget)) return;
          record(step, recorded);
          // What stopped stays in the fields: the one value that was wrong is typed anew, not all of them.
          if (outsideLimits(step, recorded).length > 0) return;
          setRecorded({});
          onOver();
        }}
      >
        <EvidenceFields step={step} recorded={recorded} setRecorded={setRecorded} />
        <button
          type="submit"
          className={`btn press h-14 w-full scroll-mb-32 text-lg ${isFirst ? "btn-primary" : ""}`}
          disabled={!isReady}
        >
          <Check size={22} aria-hidden />
          {step.evidence.kind === "tick" ? VISIT_WORDS.doneTitle : VISIT_WORDS.record}
        </button>
      </form>
      <ReasonForm
        label={VISIT_WORDS.skip}
        question={step.isGate ? VISIT_WORDS.thisIsASafetyGateWhyIsItSkipped : VISIT_WORDS.whyIsItSkipped}
        send={VISIT_WORDS.skipIt}
        isDisabled={person === ""}
        onSend={(why) => {
          skip(step, why);
          onOver();
        }}
      />
    </div>
  );
}

/** What was recorded when it stopped. */
function stoppedAt({ status, entry }: StepState): Recorded {
  if (status !== "stopped" || entry?.kind !== "result") return {};
  const { values, texts, serial } = entry;
  return { values, texts, serial };
}

function OverStep({ own, step, desk }: { own: StepState; step: VisitStep; desk: VisitDesk }) {
  const { person, reopen } = desk;
  const when = useWhen();
  return (
    <div className="space-y-2">
      <p className="text-lg">
        {own.status === "done" ? VISIT_WORDS.recorded : VISIT_WORDS.skippedTitle}
        {own.entry ? VISIT_WORDS.byAt(own.entry.person, when(own.entry.at, "clock")) : ""}
        {own.entry?.kind === "skip"
          ? `: “${own.entry.reason}”`
          : own.entry?.kind === "result" && recordedText(step, own.entry) !== ""
            ? `: ${recordedText(step, own.entry)}`
            : ""}
        .
      </p>
      <ReasonForm
        label={VISIT_WORDS.openItAgain}
        question={VISIT_WORDS.whyAgain}
        send={VISIT_WORDS.openAgain}
        isDisabled={person === ""}
        onSend={(why) => reopen(step, why)}
      />
    </div>
  );
}

/** A link that asks for a reason; a form of its own, so that Enter sends the reason and never what stands above it. */
function ReasonForm({
  label,
  question,
  send,
  isDisabled,
  onSend,
}: {
  label: string;
  question: string;
  send: string;
  isDisabled: boolean;
  onSend: (reason: string) => void;
}) {
  const [isAsked, setAsked] = useState(false);
  if (!isAsked)
    return (
      <button type="button" className="link press text-sm" disabled={isDisabled} onClick={() => setAsked(true)}>
        {label}
      </button>
    );
  return (
    <TextForm
      label={question}
      schema={reasonSchema}
      autoFocus
      send={send}
      isDisabled={isDisabled}
      onSend={(reason) => {
        onSend(reason);
        setAsked(false);
      }}
      onCancel={() => setAsked(false)}
    />
  );
}
