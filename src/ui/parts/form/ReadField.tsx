"use client";

import { useId, useState } from "react";
import { useSay } from "@/ui/parts/browser/useNumberStyle";
import { PARTS_WORDS } from "@/ui/words/partsWords";

const KEPT = { kind: "kept" } as const;

/** What was typed, as it was understood. */
export type ReadText =
  | { readonly kind: "value"; readonly value: number }
  | { readonly kind: "nothing" }
  | { readonly kind: "unreadable"; readonly message: string };

/** What every field has that takes a quantity. */
export interface QuantityFieldProps {
  readonly label: string;
  readonly unit?: string | undefined;
  readonly value: number | undefined;
  readonly onValue: (value: number | undefined) => void;
  /** May be left empty, and says so; or is empty until all of it is sent. */
  readonly optional?: boolean | "until-sent";
  readonly hint?: string | undefined;
  /** Said to those who only hear the label. */
  readonly about?: string | undefined;
}

interface Props extends QuantityFieldProps {
  readonly read: (text: string) => ReadText;
  /** A kept value as it stands in the box. */
  readonly written: (value: number) => string;
  readonly inputMode: "text" | "numeric" | "decimal";
}

/** A quantity that is kept as soon as it can be read; what is typed stays in the field either way. */
export function ReadField({ label, unit, value, onValue, optional = false, hint, about, ...how }: Props) {
  const id = useId();
  const say = useSay();
  const [typed, setTyped] = useState<string | undefined>();
  // What was kept needs no reading: it may have three decimals, which nobody could tell from thousands.
  const read = typed === undefined ? KEPT : how.read(typed);
  return (
    <div className="text-sm">
      <QuantityLabel id={id} label={label} about={about} unit={unit} />
      <input
        id={id}
        className="field reading"
        inputMode={how.inputMode}
        autoComplete="off"
        placeholder={optional === true ? PARTS_WORDS.optional : undefined}
        value={typed ?? (value === undefined ? "" : how.written(value))}
        aria-required={optional === false}
        aria-invalid={read.kind === "unreadable"}
        aria-describedby={`${id}-hint`}
        onChange={(event) => {
          setTyped(event.target.value);
          const next = how.read(event.target.value);
          if (next.kind === "value" && next.value !== value) onValue(next.value);
          if (next.kind === "nothing") onValue(undefined);
        }}
        onBlur={() => read.kind !== "unreadable" && setTyped(undefined)}
      />
      {read.kind === "unreadable" ? (
        <p id={`${id}-hint`} role="alert" className="font-semibold text-error">
          {say(read.message)}
          {value !== undefined && PARTS_WORDS.isKept(how.written(value))}
        </p>
      ) : (
        hint && (
          <p id={`${id}-hint`} className="quiet">
            {say(hint)}
          </p>
        )
      )}
    </div>
  );
}

function QuantityLabel({
  id,
  label,
  about,
  unit,
}: {
  id: string;
  label: string;
  about: string | undefined;
  unit: string | undefined;
}) {
  return (
    <label htmlFor={id} className="mb-0.5 block font-semibold">
      {label}
      {about && <span className="sr-only"> {PARTS_WORDS.of(about)}</span>}
      {unit && <span className="quiet font-normal">, {unit}</span>}
    </label>
  );
}
