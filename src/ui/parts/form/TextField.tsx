"use client";

import { useId, useState, type ChangeEvent } from "react";
import type { z } from "zod";
import { PARTS_WORDS } from "@/ui/words/partsWords";

interface Props {
  readonly label: string;
  readonly value: string;
  readonly schema: z.ZodType<string>;
  readonly onValue: (value: string) => void;
  readonly placeholder?: string;
  /** So many lines high; one where it is left out. */
  readonly lines?: number;
}

/** A text that is kept as soon as it is good; what is typed stays in the field either way. */
export function TextField({ label, value, schema, onValue, placeholder, lines = 1 }: Props) {
  const id = useId();
  const [typed, setTyped] = useState<string | undefined>();
  const Box = lines === 1 ? "input" : "textarea";
  const problem = typed === undefined ? undefined : schema.safeParse(typed).error?.issues[0]?.message;
  return (
    <div className="text-sm">
      <label htmlFor={id} className="mb-0.5 block font-semibold">
        {label}
      </label>
      <Box
        id={id}
        className={lines === 1 ? "field" : "field h-auto py-2"}
        rows={lines === 1 ? undefined : lines}
        autoComplete="off"
        placeholder={placeholder}
        value={typed ?? value}
        aria-invalid={problem !== undefined}
        aria-describedby={`${id}-problem`}
        onChange={(event: ChangeEvent<HTMLInputElement | HTMLTextAreaElement>) => {
          setTyped(event.target.value);
          const good = schema.safeParse(event.target.value);
          if (good.success) onValue(good.data);
        }}
        onBlur={() => problem === undefined && setTyped(undefined)}
      />
      {problem && (
        <p id={`${id}-problem`} role="alert" className="font-semibold text-error">
          {PARTS_WORDS.isKeptOf(problem, value)}
        </p>
      )}
    </div>
  );
}
