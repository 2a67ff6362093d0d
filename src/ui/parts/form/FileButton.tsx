"use client";

import { useState, type ReactNode } from "react";
import { PARTS_WORDS } from "@/ui/words/partsWords";

/** More than any log or recording of a visit has; reading more would hold the page up. */
const MOST_MB = 20;

interface Props {
  /** What is opened, as it stands on the button. */
  readonly children: ReactNode;
  /** Endings and types of the files, as the browser takes them. */
  readonly accept: string;
  readonly isSmall?: boolean;
  readonly onText: (text: string, fileName: string) => void | Promise<void>;
}

/** A button that opens one text file; cleared afterwards, so that the same file can be opened again once mended. */
export function FileButton({ children, accept, isSmall = false, onText }: Props) {
  const [problem, setProblem] = useState<string | undefined>();
  const open = async (input: HTMLInputElement) => {
    const file = input.files?.[0];
    if (!file) return;
    const text = await textOf(file);
    input.value = "";
    setProblem(text.kind === "unread" ? text.problem : undefined);
    if (text.kind === "text") await onText(text.text, file.name);
  };
  return (
    <>
      <label className={`btn press ${isSmall ? "btn-sm" : ""}`}>
        {children}
        <input type="file" accept={accept} className="sr-only" onChange={(event) => void open(event.currentTarget)} />
      </label>
      {problem && (
        <p role="alert" className="basis-full font-semibold text-error">
          {problem}
        </p>
      )}
    </>
  );
}

type Read = { readonly kind: "text"; readonly text: string } | { readonly kind: "unread"; readonly problem: string };

async function textOf(file: File): Promise<Read> {
  const sizeMb = file.size / 1_000_000;
  if (sizeMb > MOST_MB)
    return { kind: "unread", problem: PARTS_WORDS.hasMbAtMostMbAreRead(file.name, Math.ceil(sizeMb), MOST_MB) };
  try {
    return { kind: "text", text: await file.text() };
  } catch {
    return { kind: "unread", problem: PARTS_WORDS.cannotBeReadChooseItAgain(file.name) };
  }
}
