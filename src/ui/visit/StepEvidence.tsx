"use client";

import { Check, ScanLine } from "lucide-react";
import { useState } from "react";
import { serialNumberSchema, reasonSchema } from "@/core/visit/visitEntry";
import {
  isComplete,
  isOver,
  limitsText,
  outsideLimits,
  recordedText,
  stateOf,
  type Recorded,
  type StepState,
} from "@/core/visit/visitState";
import type { VisitStep, ValueField, Choice } from "@/core/visit/visitStep";
import { TextForm } from "@/ui/parts/form/TextForm";
import { NumberField } from "@/ui/parts/form/NumberField";
import { ScanSerial, canScan } from "@/ui/visit/ScanSerial";
import type { VisitDesk } from "@/ui/visit/useVisitStage";

interface Props {
  readonly desk: VisitDesk;
  readonly step: VisitStep;
  readonly isBlocked: boolean;
  readonly onOver: () => void;
}

const FAR = 1e6;

/**
 * What shows that a step is done: values with their limits, a lamp, a serial number, or a tick; or why it is skipped.
 */
export function StepEvidence({ desk, step, isBlocked, onOver }: Props) {
  const { state, record, skip, person } = desk;
  const own = stateOf(state, step.id);
  const [recorded, setRecorded] = useState<Recorded>({});
  if (isOver(own)) return <OverStep own={own} step={step} desk={desk} />;
  const problem = serialProblem(recorded.serial);
  const isReady = isComplete(step, recorded) && !isBlocked && problem === undefined;
  return (
    <div className="space-y-3">
      <form
        aria-label="Evidence"
        className="space-y-3"
        onSubmit={(event) => {
          event.preventDefault();
          if (!isReady) return;
          record(step, recorded);
          setRecorded({});
          if (outsideLimits(step, recorded).length === 0) onOver();
        }}
      >
        <Fields step={step} recorded={recorded} setRecorded={setRecorded} />
        <button
          type="submit"
          className={`btn press h-14 w-full text-lg ${own.status === "waiting" || !step.waiting ? "btn-primary" : ""}`}
          disabled={!isReady}
        >
          <Check size={22} aria-hidden />
          {step.evidence.kind === "tick" ? "Done" : "Record"}
        </button>
      </form>
      <ReasonForm
        label="Skip …"
        question={step.isGate ? "This is a safety gate. Why is it skipped? The report shows it." : "Why is it skipped?"}
        send="Skip it"
        isDisabled={person === ""}
        onSend={(why) => {
          skip(step, why);
          onOver();
        }}
      />
    </div>
  );
}

function OverStep({ own, step, desk }: { own: StepState; step: VisitStep; desk: VisitDesk }) {
  const { person, reopen } = desk;
  return (
    <div className="space-y-2">
      <p className="text-lg">
        {own.status === "done" ? "Recorded" : "Skipped"}
        {own.entry ? ` by ${own.entry.person}` : ""}
        {own.entry?.kind === "skip"
          ? `: “${own.entry.reason}”`
          : own.entry?.kind === "result" && recordedText(step, own.entry) !== ""
            ? `: ${recordedText(step, own.entry)}`
            : ""}
        .
      </p>
      <ReasonForm
        label="Open it again …"
        question="Why again?"
        send="Open again"
        isDisabled={person === ""}
        onSend={(why) => reopen(step, why)}
      />
    </div>
  );
}

function Fields({
  step,
  recorded,
  setRecorded,
}: {
  step: VisitStep;
  recorded: Recorded;
  setRecorded: (recorded: Recorded) => void;
}) {
  const [isScanning, setScanning] = useState(false);
  const problem = serialProblem(recorded.serial);
  const { evidence } = step;
  switch (evidence.kind) {
    case "tick":
      return null;
    case "values":
      return <ValueFields evidence={evidence} recorded={recorded} setRecorded={setRecorded} />;
    case "choice":
      return <ChoiceFields evidence={evidence} step={step} recorded={recorded} setRecorded={setRecorded} />;
    case "serial":
      return (
        <SerialField
          recorded={recorded}
          problem={problem}
          setRecorded={setRecorded}
          setScanning={setScanning}
          isScanning={isScanning}
        />
      );
  }
}

function ValueFields({
  evidence,
  recorded,
  setRecorded,
}: {
  evidence: { readonly kind: "values"; readonly fields: readonly ValueField[] };
  recorded: Recorded;
  setRecorded: (recorded: Recorded) => void;
}) {
  return (
    <div className="grid gap-3 sm:grid-cols-2">
      {evidence.fields.map(({ id, label, unit, least, most }) => (
        <NumberField
          key={id}
          label={label}
          unit={unit}
          least={-FAR}
          most={FAR}
          optional
          value={recorded.values?.[id]}
          hint={`should be ${limitsText(least, most, unit)}`}
          onValue={(value) => {
            const { [id]: _old, ...rest } = recorded.values ?? {};
            setRecorded({ ...recorded, values: value === undefined ? rest : { ...rest, [id]: value } });
          }}
        />
      ))}
    </div>
  );
}

function ChoiceFields({
  evidence,
  step,
  recorded,
  setRecorded,
}: {
  evidence: {
    readonly kind: "choice";
    readonly question: string;
    readonly options: readonly Choice[];
    readonly outside: string;
  };
  step: VisitStep;
  recorded: Recorded;
  setRecorded: (recorded: Recorded) => void;
}) {
  return (
    <fieldset className="space-y-1">
      <legend className="mb-1 font-semibold">{evidence.question}</legend>
      {evidence.options.map((option) => (
        <label
          key={option.id}
          className="press flex items-center gap-3 rounded border border-base-300 bg-base-100 px-3 py-1"
        >
          <input
            type="radio"
            name={step.id}
            className="radio"
            checked={recorded.choice === option.id}
            onChange={() => setRecorded({ ...recorded, choice: option.id })}
          />
          {option.label}
        </label>
      ))}
    </fieldset>
  );
}

function SerialField({
  recorded,
  problem,
  setRecorded,
  setScanning,
  isScanning,
}: {
  recorded: Recorded;
  problem: string | undefined;
  setRecorded: (recorded: Recorded) => void;
  setScanning: (next: boolean) => void;
  isScanning: boolean;
}) {
  return (
    <div className="space-y-2">
      <div className="flex items-end gap-2">
        <label className="block flex-1 text-sm">
          <span className="mb-0.5 block font-semibold">Serial number</span>
          <input
            className="field reading text-lg"
            autoComplete="off"
            autoCapitalize="characters"
            spellCheck={false}
            value={recorded.serial ?? ""}
            aria-invalid={problem !== undefined}
            onChange={(event) => setRecorded({ ...recorded, serial: event.target.value })}
          />
        </label>
        {canScan() && (
          <button type="button" className="btn press" onClick={() => setScanning(true)}>
            <ScanLine size={20} aria-hidden />
            Scan
          </button>
        )}
      </div>
      {problem && (
        <p role="alert" className="text-sm font-semibold text-error">
          {problem}. Keep the part that is the serial number.
        </p>
      )}
      {isScanning && (
        <ScanSerial
          onSerial={(serial) => {
            setScanning(false);
            setRecorded({ ...recorded, serial });
          }}
          onClose={() => setScanning(false)}
        />
      )}
    </div>
  );
}

/** What is wrong with a serial number that was typed or scanned: a code may hold far more than the number. */
function serialProblem(serial: string | undefined): string | undefined {
  if (serial === undefined || serial.trim() === "") return undefined;
  return serialNumberSchema.safeParse(serial).error?.issues[0]?.message;
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
