"use client";

import { useMemo } from "react";
import {
  addBlankStep,
  addPlanned,
  addTest,
  changeStep,
  repeatStep,
  setReading,
  type PlannedStep,
} from "@/core/flows/editSheet";
import { expectedReadings, sureFaults, type ExpectedReading } from "@/core/flows/expectedReadings";
import type { NextTest } from "@/core/flows/nextTests";
import { simulateSeen } from "@/core/flows/simulateSeen";
import { defaultBackground, type Background, type TestSheet, type TestStep } from "@/core/flows/testSheetSchema";
import { seededNormal } from "@/core/random";
import type { Site } from "@/core/site/planSchema";
import { useEditor, useJob, useVerdict } from "@/ui/workspace/workspaceContext";

export interface ProveDesk {
  readonly site: Site;
  readonly sheet: TestSheet;
  readonly background: readonly Background[];
  /** Whether the bands are narrowed by what was read. */
  readonly isNarrowed: boolean;
  readonly expected: readonly (readonly ExpectedReading[])[];
  readonly hasReadings: boolean;
  readonly read: (step: number, input: { meter: string; input: number }, powerW: number | undefined) => void;
  readonly change: (step: number, change: Partial<TestStep>, field?: string) => void;
  readonly addBlank: () => void;
  /** Steps of the shortest proof, with nothing read yet. */
  readonly addPlanned: (steps: readonly PlannedStep[]) => void;
  readonly addProposed: (test: NextTest) => void;
  readonly repeat: (step: number) => void;
  readonly remove: (step: number) => void;
  readonly assume: (change: Partial<TestSheet>, field?: string) => void;
  /** Readings as the clamps fitted in Place would give them, marked as simulated. */
  readonly simulate: () => void;
}

/** Binds the test sheet of the core to the open job. */
export function useProve(): ProveDesk {
  const editor = useEditor();
  const job = useJob();
  const diagnosis = useVerdict();
  const { site, tests: sheet } = job.document;
  const faults = sureFaults(diagnosis.diagnosis);
  const hasReadings = sheet.steps.some((step) => step.readings.length > 0);
  const narrowBy = hasReadings ? faults : undefined;
  const expected = useMemo(() => expectedReadings(site, sheet, narrowBy), [site, sheet, narrowBy]);
  const edit = (change: (sheet: TestSheet) => TestSheet, field?: string) =>
    editor.edit((document) => ({ ...document, tests: change(document.tests) }), field);

  return {
    site,
    sheet,
    background: sheet.background ?? defaultBackground(site),
    isNarrowed: narrowBy !== undefined,
    expected,
    hasReadings,
    read: (step, input, powerW) =>
      edit((before) => setReading(before, step, input, powerW), `reading ${step} ${input.meter} ${input.input}`),
    change: (step, change, field) => edit((before) => changeStep(before, step, change), field),
    addBlank: () => edit((before) => addBlankStep(before, crypto.randomUUID())),
    addPlanned: (steps) => edit((before) => addPlanned(before, steps, () => crypto.randomUUID())),
    addProposed: (test) =>
      editor.edit((document) => ({ ...document, ...addTest(document, test, crypto.randomUUID()) })),
    repeat: (step) => edit((before) => repeatStep(before, step, crypto.randomUUID())),
    remove: (step) => edit((before) => ({ ...before, steps: before.steps.toSpliced(step, 1) })),
    assume: (change, field) => edit((before) => ({ ...before, ...change }), field),
    simulate: () =>
      editor.edit((document) => ({
        ...document,
        // The revision is the seed: the same each time for the same job, another after the next change.
        tests: { ...document.tests, steps: simulateSeen(document.site, document.tests, seededNormal(job.revision)) },
      })),
  };
}
