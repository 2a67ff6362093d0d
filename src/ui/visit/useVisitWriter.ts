"use client";

import { cutText } from "@/core/text";
import { MOST_SAID_CHARACTERS, MOST_TITLE_CHARACTERS, type VisitEntry } from "@/core/visit/visitEntry";
import { contentMark, outsideLimits, recordedText, type Recorded } from "@/core/visit/visitState";
import type { VisitStep } from "@/core/visit/visitStep";
import type { VisitWork } from "@/ui/workspace/visit/useVisit";

export interface VisitWriter {
  readonly start: (step: VisitStep) => void;
  readonly record: (step: VisitStep, recorded: Recorded) => void;
  readonly skip: (step: VisitStep, reason: string) => void;
  readonly reopen: (step: VisitStep, reason: string) => void;
  readonly note: (text: string, step?: string) => void;
  readonly photo: (file: Blob, text: string, step?: string) => void;
  readonly correct: (entry: string, text: string) => void;
}

/** Everything that can be written into the log of a visit, each with who, when and of which visit. */
export function useVisitWriter({ recorder }: VisitWork, person: string, visit: string): VisitWriter {
  const common = () => ({ id: crypto.randomUUID(), at: new Date().toISOString(), person, visit });
  const add = (entry: VisitEntry, photo?: Blob) => void recorder.add(entry, photo);
  return {
    start: (step) => add({ ...common(), ...ofStep(step), kind: "start" }),
    record: (step, recorded) => add({ ...common(), ...ofStep(step), kind: "result", ...saidOf(step, recorded) }),
    skip: (step, reason) => add({ ...common(), ...ofStep(step), kind: "skip", reason }),
    reopen: (step, reason) => add({ ...common(), ...ofStep(step), kind: "reopen", reason }),
    note: (text, step) => add({ ...common(), kind: "note", text, ...(step === undefined ? {} : { step }) }),
    photo: (file, text, step) =>
      add(
        { ...common(), kind: "photo", photo: crypto.randomUUID(), text, ...(step === undefined ? {} : { step }) },
        file,
      ),
    correct: (entry, text) => add({ ...common(), kind: "correction", corrects: entry, text }),
  };
}

function ofStep(step: VisitStep) {
  return { step: step.id, title: cutText(step.title, MOST_TITLE_CHARACTERS), content: contentMark(step) };
}

/** What was recorded, in the fields of an entry and in words, with what is outside its limits. */
function saidOf(step: VisitStep, { values, choice, serial, texts }: Recorded) {
  const recorded = { values, choice, serial: serial?.trim(), texts };
  return {
    ...(values ? { values: { ...values } } : {}),
    ...(choice === undefined ? {} : { choice }),
    ...(texts === undefined ? {} : { texts: { ...texts } }),
    ...(recorded.serial === undefined ? {} : { serial: recorded.serial }),
    said: cutText(recordedText(step, recorded), MOST_SAID_CHARACTERS),
    outside: [...outsideLimits(step, recorded)],
  };
}
