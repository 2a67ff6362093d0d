"use client";

import { CheckCheck } from "lucide-react";
import { useState } from "react";
import { recordedTextSchema } from "@/core/visit/visitEntry";
import type { Recorded } from "@/core/visit/visitState";
import type { ReadBackField } from "@/core/visit/visitStep";
import { useSay } from "@/ui/parts/browser/useNumberStyle";
import { TextField } from "@/ui/parts/form/TextField";
import { VISIT_WORDS } from "@/ui/words/visitWords";

interface Props {
  readonly fields: readonly ReadBackField[];
  readonly recorded: Recorded;
  readonly setRecorded: (recorded: Recorded) => void;
}

/** What was typed, line by line: it reads as it should, or what it reads instead. */
export function ReadBackFields({ fields, recorded, setRecorded }: Props) {
  const texts = recorded.texts ?? {};
  const set = (change: Readonly<Record<string, string | undefined>>) => {
    const next = Object.entries({ ...texts, ...change }).filter(
      (line): line is [string, string] => line[1] !== undefined,
    );
    setRecorded({ ...recorded, texts: Object.fromEntries(next) });
  };
  return (
    <fieldset className="space-y-1">
      <legend className="mb-1 font-semibold">{VISIT_WORDS.readEachLineBackOnTheDevice}</legend>
      <ul className="space-y-1">
        {fields.map((field) => (
          <ReadBackLine
            key={field.id}
            field={field}
            read={texts[field.id]}
            onRead={(read) => set({ [field.id]: read })}
          />
        ))}
      </ul>
      <button
        type="button"
        className="btn press"
        onClick={() => set(Object.fromEntries(fields.map(({ id, value }) => [id, texts[id] ?? value])))}
      >
        <CheckCheck size={20} aria-hidden />
        {VISIT_WORDS.allOthersReadAsTheyShould}
      </button>
    </fieldset>
  );
}

interface LineProps {
  readonly field: ReadBackField;
  readonly read: string | undefined;
  readonly onRead: (read: string | undefined) => void;
}

function ReadBackLine({ field: { label, value }, read, onRead }: LineProps) {
  const say = useSay();
  const [isDifferent, setDifferent] = useState(false);
  const asks = isDifferent || (read !== undefined && read !== value);
  return (
    <li className="rounded border border-base-300 bg-base-100 px-3 py-1">
      <div className="flex flex-wrap items-center gap-x-4">
        <label className="press flex min-w-0 flex-1 items-center gap-3">
          <input
            type="checkbox"
            className="checkbox"
            checked={read === value}
            onChange={(event) => {
              setDifferent(false);
              onRead(event.target.checked ? value : undefined);
            }}
          />
          <span className="min-w-0">
            {label}: <b>{say(value)}</b>
          </span>
        </label>
        {!asks && (
          <button
            type="button"
            className="link press text-sm"
            aria-label={VISIT_WORDS.readsSomethingElse(label)}
            onClick={() => {
              setDifferent(true);
              onRead(undefined);
            }}
          >
            {VISIT_WORDS.differs}
          </button>
        )}
      </div>
      {asks && (
        <TextField
          label={VISIT_WORDS.reads(label)}
          value={read === value ? "" : (read ?? "")}
          schema={recordedTextSchema}
          onValue={onRead}
        />
      )}
    </li>
  );
}
