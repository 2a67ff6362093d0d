import type { ReactNode } from "react";

interface Props {
  readonly id: string;
  readonly label: string;
  readonly hint?: string;
  readonly error?: string | undefined;
  readonly children: ReactNode;
}

/** A form field with its label, its hint and, when something is wrong, what. */
export function Field({ id, label, hint, error, children }: Props) {
  return (
    <div>
      <label htmlFor={id} className="mb-1 block font-semibold">
        {label}
      </label>
      {children}
      {hint && !error && (
        <p id={`${id}-hint`} className="quiet mt-1 text-sm">
          {hint}
        </p>
      )}
      {error && (
        <p id={`${id}-error`} role="alert" className="mt-1 text-sm font-semibold text-error">
          {error}
        </p>
      )}
    </div>
  );
}

/** What ties an input to its field's error. */
export function fieldState(id: string, error: string | undefined) {
  return {
    id,
    className: "field",
    "aria-invalid": error ? true : undefined,
    "aria-describedby": error ? `${id}-error` : `${id}-hint`,
  } as const;
}
