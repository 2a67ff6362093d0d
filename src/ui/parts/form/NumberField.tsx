"use client";

import { useId, useState } from "react";
import { typedNumber } from "@/core/typedNumber";
import { useNumberStyle, useSay } from "@/ui/parts/browser/useNumberStyle";
import { PARTS_WORDS } from "@/ui/words/partsWords";

const KEPT = { kind: "kept" } as const;

interface Props {
  readonly label: string;
  readonly unit?: string;
  readonly value: number | undefined;
  readonly onValue: (value: number | undefined) => void;
  readonly least?: number;
  readonly most: number;
  readonly whole?: boolean;
  /** May be left empty, and says so; or is empty until all of it is sent. */
  readonly optional?: boolean | "until-sent";
  readonly hint?: string;
  /** Said to those who only hear the label. */
  readonly about?: string;
}

/** A number that is kept as soon as it makes sense; what is typed stays in the field either way, point or comma. */
export function NumberField({
  label,
  unit,
  value,
  onValue,
  least = 0,
  most,
  whole = false,
  optional = false,
  hint,
  about,
}: Props) {
  const id = useId();
  const say = useSay();
  const { decimal } = useNumberStyle();
  const [typed, setTyped] = useState<string | undefined>();
  const bounds = { least, most, whole, optional: optional !== false };
  const shown = typed ?? (value === undefined ? "" : say(String(value)));
  // What was kept needs no reading: it may have three decimals, which nobody could tell from thousands.
  const read = typed === undefined ? KEPT : typedNumber(typed, bounds, decimal, unit);
  return (
    <div className="text-sm">
      <NumberLabel id={id} label={label} about={about} unit={unit} />
      <input
        id={id}
        className="field reading"
        inputMode={least < 0 ? "text" : whole ? "numeric" : "decimal"}
        autoComplete="off"
        placeholder={optional === true ? PARTS_WORDS.optional : undefined}
        value={shown}
        aria-required={optional === false}
        aria-invalid={read.kind === "unreadable"}
        aria-describedby={`${id}-hint`}
        onChange={(event) => {
          setTyped(event.target.value);
          const next = typedNumber(event.target.value, bounds, decimal, unit);
          if (next.kind === "number" && next.value !== value) onValue(next.value);
          if (next.kind === "nothing") onValue(undefined);
        }}
        onBlur={() => read.kind !== "unreadable" && setTyped(undefined)}
      />
      {read.kind === "unreadable" ? (
        <p id={`${id}-hint`} role="alert" className="font-semibold text-error">
          {say(read.message)}
          {value !== undefined && PARTS_WORDS.isKept(say(String(value)))}
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

function NumberLabel({
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
