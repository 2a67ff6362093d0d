"use client";

import { useId, useState } from "react";
import type { z } from "zod";

interface Props {
  readonly label: string;
  readonly value: string;
  readonly schema: z.ZodType<string>;
  readonly onValue: (value: string) => void;
  readonly placeholder?: string;
}

/** A text that is kept as soon as it is good; what is typed stays in the field either way. */
export function TextField({ label, value, schema, onValue, placeholder }: Props) {
  const id = useId();
  const [typed, setTyped] = useState<string | undefined>();
  const problem = typed === undefined ? undefined : schema.safeParse(typed).error?.issues[0]?.message;
  return (
    <div className="text-sm">
      <label htmlFor={id} className="mb-0.5 block font-semibold">
        {label}
      </label>
      <input
        id={id}
        className="field"
        autoComplete="off"
        placeholder={placeholder}
        value={typed ?? value}
        aria-invalid={problem !== undefined}
        aria-describedby={`${id}-problem`}
        onChange={(event) => {
          setTyped(event.target.value);
          const good = schema.safeParse(event.target.value);
          if (good.success) onValue(good.data);
        }}
        onBlur={() => problem === undefined && setTyped(undefined)}
      />
      {problem && (
        <p id={`${id}-problem`} role="alert" className="font-semibold text-error">
          {problem}; “{value}” is kept
        </p>
      )}
    </div>
  );
}
