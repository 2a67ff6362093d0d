"use client";

import { ScanLine } from "lucide-react";
import { useId, useState } from "react";
import { serialDoubt } from "@/core/kits/serialDoubt";
import { serialNumberSchema } from "@/core/visit/visitEntry";
import { limitsText, type Recorded } from "@/core/visit/visitState";
import type { Choice, ValueField, VisitStep } from "@/core/visit/visitStep";
import { useSay } from "@/ui/parts/browser/useNumberStyle";
import { NumberField } from "@/ui/parts/form/NumberField";
import { PowerField } from "@/ui/parts/form/PowerField";
import { NameFields } from "@/ui/visit/evidence/NameFields";
import { ReadBackFields } from "@/ui/visit/evidence/ReadBackFields";
import { ScanSerial, canScan } from "@/ui/visit/ScanSerial";
import { VISIT_WORDS } from "@/ui/words/visitWords";

const FAR = 1e6;

/** The fields of one kind of evidence: numbers, a choice, a serial number, values read back, names. */
export function EvidenceFields({
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
    case "read-back":
      return <ReadBackFields fields={evidence.fields} recorded={recorded} setRecorded={setRecorded} />;
    case "names":
      return <NameFields evidence={evidence} recorded={recorded} setRecorded={setRecorded} />;
    case "serial":
      return (
        <SerialField
          pattern={evidence.pattern}
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
      {evidence.fields.map((field) => (
        <ValueInput
          key={field.id}
          field={field}
          value={recorded.values?.[field.id]}
          onValue={(value) => {
            const { [field.id]: _old, ...rest } = recorded.values ?? {};
            setRecorded({ ...recorded, values: value === undefined ? rest : { ...rest, [field.id]: value } });
          }}
        />
      ))}
    </div>
  );
}

/** A power is typed as a meter shows it, in W or in kW with its unit; any other value as a number. */
function ValueInput({
  field: { id, label, unit, expected, least, most },
  value,
  onValue,
}: {
  field: ValueField;
  value: number | undefined;
  onValue: (value: number | undefined) => void;
}) {
  const say = useSay();
  const hintId = useId();
  const isAny = least === undefined && most === undefined;
  if (unit !== "W")
    return (
      <NumberField
        label={label}
        unit={unit}
        least={-FAR}
        most={FAR}
        optional="until-sent"
        value={value}
        hint={isAny ? VISIT_WORDS.asItShows : VISIT_WORDS.expected(limitsText(least, most, unit))}
        onValue={onValue}
      />
    );
  return (
    <div className="text-sm">
      <span className="mb-0.5 block font-semibold" aria-hidden>
        {label}
        <span className="quiet font-normal">{VISIT_WORDS.wOrKWWithItsUnit}</span>
      </span>
      <PowerField key={id} label={label} powerW={value} describedBy={hintId} onPower={onValue} />
      <p id={hintId} className="quiet">
        {say(expected ? VISIT_WORDS.expectedOf(expected) : VISIT_WORDS.expected(limitsText(least, most, unit)))}
      </p>
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
  pattern,
  recorded,
  problem,
  setRecorded,
  setScanning,
  isScanning,
}: {
  pattern: string | undefined;
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
          <span className="mb-0.5 block font-semibold">{VISIT_WORDS.serialNumber}</span>
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
            {VISIT_WORDS.scan}
          </button>
        )}
      </div>
      {problem && (
        <p role="alert" className="text-sm font-semibold text-error">
          {VISIT_WORDS.keepThePartThatIsTheSerialNumber(problem)}
        </p>
      )}
      <SerialDoubt
        pattern={pattern}
        serial={recorded.serial ?? ""}
        onInstead={(serial) => setRecorded({ ...recorded, serial })}
      />
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

/** What speaks against what was typed; it is taken over, or recorded as it is: it never holds anybody up. */
function SerialDoubt({
  pattern,
  serial,
  onInstead,
}: {
  pattern: string | undefined;
  serial: string;
  onInstead: (serial: string) => void;
}) {
  const doubt = serialDoubt(pattern, serial);
  if (!doubt) return null;
  const { instead, words } = doubt;
  return (
    <div role="status" className="note-pattern space-y-1 rounded p-2 text-sm">
      <p>{VISIT_WORDS.oneOfThisKitIsLookOnceMoreOrRecord(words)}</p>
      {instead !== undefined && (
        <button type="button" className="btn press" onClick={() => onInstead(instead)}>
          {VISIT_WORDS.take} <Compared typed={serial.trim()} instead={instead} />
        </button>
      )}
    </div>
  );
}

/** The other reading, with the characters that differ marked. */
function Compared({ typed, instead }: { typed: string; instead: string }) {
  return (
    <span className="reading">
      {[...instead].map((character, at) => (character === typed[at] ? character : <mark key={at}>{character}</mark>))}
    </span>
  );
}

/** What is wrong with a serial number that was typed or scanned: a code may hold far more than the number. */
export function serialProblem(serial: string | undefined): string | undefined {
  if (serial === undefined || serial.trim() === "") return undefined;
  return serialNumberSchema.safeParse(serial).error?.issues[0]?.message;
}
