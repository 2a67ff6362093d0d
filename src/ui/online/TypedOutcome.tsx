"use client";

import { useId, useState } from "react";
import type { CommonCheckId } from "@/core/online/checks";
import { outcomeProblem } from "@/core/online/onlineSchema";
import { typedNumber } from "@/core/typedNumber";
import { useNumberStyle } from "@/ui/parts/browser/useNumberStyle";
import { ONLINE_WORDS } from "@/ui/words/onlineWords";

interface Props {
  readonly onOutcome: (outcome: string | number) => void;
}

/** An address as the display shows it; none, and one that another device has, by a press. */
export function AddressOutcome({ onOutcome }: Props) {
  return (
    <div className="space-y-2">
      <TypedLine
        label={ONLINE_WORDS.addressThatItShows}
        placeholder="192.168.7.20"
        read={(text) => ({ value: text, problem: outcomeProblem({ check: "address", outcome: text }, []) })}
        onOutcome={onOutcome}
      />
      <div className="grid gap-2 sm:grid-cols-2">
        <button type="button" className="btn press" onClick={() => onOutcome("0.0.0.0")}>
          {ONLINE_WORDS.itShowsNone}
        </button>
        <button type="button" className="btn press" onClick={() => onOutcome("duplicate")}>
          {ONLINE_WORDS.anotherDeviceHasTheSame}
        </button>
      </div>
    </div>
  );
}

/** A number with its unit, as people type it. */
export function NumberOutcome({ check, unit, onOutcome }: Props & { check: CommonCheckId; unit: string }) {
  const { decimal } = useNumberStyle();
  return (
    <TypedLine
      label={unit === "s" ? ONLINE_WORDS.offByS : unit === "min" ? ONLINE_WORDS.minutes : ONLINE_WORDS.value(unit)}
      placeholder={unit === "dBm" ? "-67" : "5"}
      read={(text) => {
        const read = typedNumber(text, { least: -1e10, most: 1e10, whole: false, optional: false }, decimal, unit);
        if (read.kind !== "number") return { problem: ONLINE_WORDS.typeANumberOf(unit) };
        // Nobody types the sign of a signal: it is always below 0.
        const value = check === "signal" ? -Math.abs(read.value) : read.value;
        return { value, problem: outcomeProblem({ check, outcome: value }, []) };
      }}
      onOutcome={onOutcome}
    />
  );
}

/** Whatever a display shows, or that it is dark. */
export function TextOutcome({ onOutcome }: Props) {
  return (
    <div className="space-y-2">
      <TypedLine
        label={ONLINE_WORDS.itShows}
        placeholder=""
        read={(text) => ({
          value: text.slice(0, 200),
          problem: text.trim() === "" ? ONLINE_WORDS.typeWhatItShows : undefined,
        })}
        onOutcome={onOutcome}
      />
      <button type="button" className="btn press w-full" onClick={() => onOutcome("dark")}>
        {ONLINE_WORDS.itIsDark}
      </button>
    </div>
  );
}

interface LineProps extends Props {
  readonly label: string;
  readonly placeholder: string;
  readonly read: (text: string) => { readonly value?: string | number; readonly problem: string | undefined };
}

function TypedLine({ label, placeholder, read, onOutcome }: LineProps) {
  const id = useId();
  const [text, setText] = useState("");
  const [isAsked, setIsAsked] = useState(false);
  const { value, problem } = read(text.trim());
  const isBad = isAsked && problem !== undefined;
  return (
    <form
      className="space-y-1 text-sm"
      onSubmit={(event) => {
        event.preventDefault();
        setIsAsked(true);
        if (problem === undefined && value !== undefined) onOutcome(value);
      }}
    >
      <label htmlFor={id} className="block font-semibold">
        {label}
      </label>
      <span className="flex gap-2">
        <input
          id={id}
          className="field reading min-w-0"
          autoComplete="off"
          placeholder={placeholder}
          value={text}
          aria-invalid={isBad}
          aria-describedby={`${id}-problem`}
          onChange={(event) => setText(event.target.value)}
        />
        <button type="submit" className="btn btn-primary press">
          {ONLINE_WORDS.noteIt}
        </button>
      </span>
      <p id={`${id}-problem`} role={isBad ? "alert" : undefined} className="font-semibold text-error">
        {isBad ? problem : ""}
      </p>
    </form>
  );
}
