"use client";

import { useState } from "react";
import { powerMeantAs, typedPower, type TypedPower } from "@/core/units";
import { useNumberStyle, useSay } from "@/ui/parts/browser/useNumberStyle";
import { PARTS_WORDS } from "@/ui/words/partsWords";

interface Props {
  readonly label: string;
  readonly powerW: number | undefined;
  readonly onPower: (powerW: number | undefined) => void;
  /** What makes a readable power unfit here, if anything. */
  readonly refuse?: (powerW: number) => string | undefined;
  readonly describedBy?: string;
  /** The most that can flow there, W: what is a thousand times off is asked about. */
  readonly mostW?: number;
  /** Whether a sign belongs to it, and gets a key of its own: many keyboards of phones have none. */
  readonly isSigned?: boolean;
}

/**
 * A power as typed: watts, or kW with the unit. What is typed stays until it can be read; what can be read is kept at
 * once.
 */
export function PowerField({ label, powerW, onPower, refuse, describedBy, mostW, isSigned = false }: Props) {
  const { decimal } = useNumberStyle();
  const [typed, setTyped] = useState<string | undefined>();
  const [asked, setAsked] = useState<{ readonly text: string; readonly powerW: number } | undefined>();
  const parsed = typedPower(typed ?? "", decimal);
  const message = typed === undefined ? undefined : messageOf(parsed, refuse);
  const answer = (powerW: number) => {
    setTyped(undefined);
    setAsked(undefined);
    onPower(powerW);
  };
  return (
    <>
      <span className="flex items-stretch gap-1">
        {isSigned && <SignKey label={label} powerW={powerW} onTurn={answer} />}
        <input
          className="field reading min-w-0 text-right"
          inputMode="text"
          autoComplete="off"
          spellCheck={false}
          aria-label={label}
          aria-describedby={describedBy}
          aria-invalid={message !== undefined}
          value={typed ?? (powerW === undefined ? "" : String(powerW).replace("-", "−"))}
          placeholder="W"
          onChange={(event) => {
            setTyped(event.target.value);
            const next = typedPower(event.target.value, decimal);
            if (next.kind === "power" && !refuse?.(next.powerW)) onPower(next.powerW);
            setAsked(next.kind === "power" ? { text: event.target.value, powerW: next.powerW } : undefined);
            if (next.kind === "nothing") onPower(undefined);
          }}
          onBlur={() => message === undefined && setTyped(undefined)}
        />
      </span>
      {asked && mostW !== undefined && (
        <UnitQuestion text={asked.text} powerW={asked.powerW} mostW={mostW} onAnswer={answer} />
      )}
      {message && (
        <span role="alert" className="block text-sm font-semibold text-error">
          {message}
        </span>
      )}
    </>
  );
}

/** What is wrong with what was typed, if anything. */
function messageOf(parsed: TypedPower, refuse: Props["refuse"]): string | undefined {
  if (parsed.kind === "unreadable") return parsed.message;
  return parsed.kind === "power" ? refuse?.(parsed.powerW) : undefined;
}

interface SignProps {
  readonly label: string;
  readonly powerW: number | undefined;
  readonly onTurn: (powerW: number) => void;
}

/** The other sign by one key. */
function SignKey({ label, powerW, onTurn }: SignProps) {
  return (
    <button
      type="button"
      className="btn press px-2"
      disabled={powerW === undefined || powerW === 0}
      aria-label={PARTS_WORDS.otherSignOf(label)}
      onClick={() => powerW !== undefined && onTurn(-powerW)}
    >
      ±
    </button>
  );
}

/** Which of two readings of a number was meant, where it is a thousand times off. */
function UnitQuestion({
  text,
  powerW,
  mostW,
  onAnswer,
}: {
  text: string;
  powerW: number;
  mostW: number;
  onAnswer: (powerW: number) => void;
}) {
  const say = useSay();
  const otherW = powerMeantAs(text, powerW, mostW);
  if (otherW === undefined) return null;
  const exact = (watts: number) => (Math.abs(watts) < 1000 ? `${watts} W` : PARTS_WORDS.kW(watts / 1000));
  return (
    <span role="alert" className="mt-1 flex flex-wrap items-center gap-1 text-sm font-semibold text-warning">
      {PARTS_WORDS.which}
      {[otherW, powerW].map((watts) => (
        <button key={watts} type="button" className="btn btn-sm press" onClick={() => onAnswer(watts)}>
          {say(exact(watts).replace("-", "−"))}
        </button>
      ))}
    </span>
  );
}
