"use client";

import { personSchema } from "@/core/visit/visitEntry";
import { nameIds, type Recorded } from "@/core/visit/visitState";
import { TextField } from "@/ui/parts/form/TextField";
import { VISIT_WORDS } from "@/ui/words/visitWords";

interface Props {
  readonly evidence: { readonly question: string; readonly count: number };
  readonly recorded: Recorded;
  readonly setRecorded: (recorded: Recorded) => void;
}

/** Everybody who works there, by name. */
export function NameFields({ evidence: { question, count }, recorded, setRecorded }: Props) {
  return (
    <fieldset className="space-y-2">
      <legend className="mb-1 font-semibold">{question}</legend>
      {nameIds(count).map((id, at) => (
        <TextField
          key={id}
          label={count === 1 ? VISIT_WORDS.name : VISIT_WORDS.nameOfTechnician(at + 1)}
          value={recorded.texts?.[id] ?? ""}
          schema={personSchema}
          onValue={(name) => setRecorded({ ...recorded, texts: { ...recorded.texts, [id]: name } })}
        />
      ))}
    </fieldset>
  );
}
