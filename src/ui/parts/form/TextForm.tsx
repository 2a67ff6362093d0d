"use client";

import { zodResolver } from "@hookform/resolvers/zod";
import { useId, useMemo, type ReactNode } from "react";
import { useForm, useWatch } from "react-hook-form";
import { z } from "zod";
import { Field, fieldState } from "@/ui/parts/form/Field";
import { PARTS_WORDS } from "@/ui/words/partsWords";

interface Props {
  readonly label: string;
  readonly schema: z.ZodType<string, string>;
  /** What stands on the button. */
  readonly send: ReactNode;
  readonly onSend: (text: string) => void;
  /** Gives it up; only then it has a button for that. */
  readonly onCancel?: () => void;
  readonly placeholder?: string;
  readonly autoFocus?: boolean;
  readonly isDisabled?: boolean;
  /** Further things to do with what is typed so far. */
  readonly more?: (typed: string) => ReactNode;
}

/** One text that is sent as a whole; what is wrong with it stands below it, and what is typed stays. */
export function TextForm({ label, schema, send, onSend, onCancel, placeholder, autoFocus, isDisabled, more }: Props) {
  const id = useId();
  const resolver = useMemo(() => zodResolver(z.object({ text: schema })), [schema]);
  const { register, handleSubmit, reset, control, formState } = useForm({ resolver, defaultValues: { text: "" } });
  const typed = useWatch({ control, name: "text" });
  const problem = formState.errors.text?.message;
  const submit = handleSubmit(({ text }) => {
    onSend(text);
    reset();
  });
  return (
    <form
      className="flex min-w-52 flex-1 flex-wrap items-end gap-2"
      noValidate
      onSubmit={(event) => void submit(event)}
    >
      <div className="min-w-40 flex-1 text-sm">
        <Field id={id} label={label} error={problem}>
          {/* The margin brings its buttons into view too, above what stands at the bottom of a phone. */}
          <input
            {...fieldState(id, problem)}
            {...register("text")}
            className="field scroll-mb-44"
            autoComplete="off"
            autoFocus={autoFocus}
            placeholder={placeholder}
          />
        </Field>
      </div>
      <button type="submit" className="btn press" disabled={isDisabled}>
        {send}
      </button>
      {onCancel && (
        <button type="button" className="btn btn-ghost press" onClick={onCancel}>
          {PARTS_WORDS.notNow}
        </button>
      )}
      {more?.(typed)}
    </form>
  );
}
