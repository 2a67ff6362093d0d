"use client";

import { useId } from "react";

interface Props {
  readonly label: string;
  readonly value: string;
  readonly options: readonly { readonly value: string; readonly label: string }[];
  readonly onValue: (value: string) => void;
  readonly hint?: string | undefined;
}

/** One of a few, chosen from a list. */
export function SelectField({ label, value, options, onValue, hint }: Props) {
  const id = useId();
  return (
    <div className="min-w-0 text-sm">
      <label htmlFor={id} className="mb-0.5 block font-semibold">
        {label}
      </label>
      <select
        id={id}
        className="field"
        value={value}
        aria-describedby={hint ? `${id}-hint` : undefined}
        onChange={(event) => onValue(event.target.value)}
      >
        {options.map((option) => (
          <option key={option.value} value={option.value}>
            {option.label}
          </option>
        ))}
      </select>
      {hint && (
        <p id={`${id}-hint`} className="quiet">
          {hint}
        </p>
      )}
    </div>
  );
}
