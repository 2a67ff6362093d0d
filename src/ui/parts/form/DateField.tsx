"use client";

import { useId } from "react";

interface Props {
  readonly label: string;
  /** As 2026-11-25; undefined where none is said. */
  readonly value: string | undefined;
  readonly onValue: (value: string | undefined) => void;
}

/** A day, by the browser's own picker; emptied, it is not said. */
export function DateField({ label, value, onValue }: Props) {
  const id = useId();
  return (
    <div className="min-w-0 text-sm">
      <label htmlFor={id} className="mb-0.5 block font-semibold">
        {label}
      </label>
      <input
        id={id}
        type="date"
        className="field"
        value={value ?? ""}
        onChange={({ target }) => {
          // While a year is typed the picker says nothing: what was there stays until a whole day stands there.
          if (target.value !== "" || target.validity.valid) onValue(target.value === "" ? undefined : target.value);
        }}
      />
    </div>
  );
}
