"use client";

import { useMemo } from "react";
import {
  addBlankStep,
  addPlanned,
  addTest,
  changeStep,
  repeatStep,
  setAfter,
  setReading,
  type PlannedStep,
} from "@/core/flows/editSheet";
import { curedSite } from "@/core/flows/curedSite";
import type { Fault } from "@/core/flows/faults";
import { expectedReadings, sureFaults, type ExpectedReading } from "@/core/flows/expectedReadings";
import type { NextTest } from "@/core/flows/nextTests";
import { afterClampChange, freshSheet } from "@/core/flows/staleReadings";
import { simulateSeen } from "@/core/flows/simulateSeen";
import { defaultBackground, type Background, type TestSheet, type TestStep } from "@/core/flows/testSheetSchema";
import type { Round } from "@/core/live/roundOfSamples";
import { takenStep } from "@/core/live/takenStep";
import { seededNormal } from "@/core/random";
import type { Site } from "@/core/site/planSchema";
import { useEditor, useJob, useVerdict } from "@/ui/workspace/workspaceContext";

export interface ProveDesk {
  readonly site: Site;
  readonly sheet: TestSheet;
  readonly background: readonly Background[];
  /** The most that one input can read, W. */
  readonly mostW: number;
  /** Whether the bands are narrowed by what was read. */
  readonly isNarrowed: boolean;
  readonly expected: readonly (readonly ExpectedReading[])[];
  readonly hasReadings: boolean;
  readonly read: (step: number, input: { meter: string; input: number }, powerW: number | undefined) => void;
  /** What a device that follows the sun showed after the last reading. */
  readonly readAfter: (step: number, node: string, afterW: number | undefined) => void;
  readonly change: (step: number, change: Partial<TestStep>, field?: string) => void;
  readonly addBlank: () => void;
  /** Steps of the shortest proof, with nothing read yet. */
  readonly addPlanned: (steps: readonly PlannedStep[]) => void;
  readonly addProposed: (test: NextTest) => void;
  readonly repeat: (step: number) => void;
  readonly remove: (step: number) => void;
  readonly assume: (change: Partial<TestSheet>, field?: string) => void;
  /** Somebody put these faults right: their CTs stand as planned, and what they showed is from before. */
  readonly cure: (faults: readonly Fault[]) => void;
  /** A round of live readings in a step. */
  readonly take: (step: number, round: Extract<Round, { kind: "taken" }>, source: TestStep["source"]) => void;
  /** Readings as the CTs fitted in Place would give them, marked as simulated. */
  readonly simulate: () => void;
}

/** What no single input reads: twice what the supply's fuse lets through on a phase, or what stands on the plates. */
function mostPowerW({ supply, nodes, meters }: Site): number {
  const primaryA = Math.max(100, ...meters.flatMap(({ inputs }) => inputs.map((input) => input.primaryA)));
  const ratedW = Math.max(0, ...nodes.map((node) => node.ratedW ?? 0));
  return 2 * Math.max(ratedW, supply.voltageV * primaryA);
}

/** Binds the test sheet of the core to the open job. */
export function useProve(): ProveDesk {
  const editor = useEditor();
  const job = useJob();
  const diagnosis = useVerdict();
  const { site, tests: sheet } = job.document;
  const faults = sureFaults(diagnosis.diagnosis);
  const fresh = useMemo(() => freshSheet(site, sheet), [site, sheet]);
  const hasReadings = fresh.steps.some((step) => step.readings.length > 0);
  const narrowBy = hasReadings ? faults : undefined;
  const expected = useMemo(() => expectedReadings(site, fresh, narrowBy), [site, fresh, narrowBy]);
  const edit = (change: (sheet: TestSheet) => TestSheet, field?: string) =>
    editor.edit((document) => ({ ...document, tests: change(document.tests) }), field);

  return {
    site,
    sheet,
    background: sheet.background ?? defaultBackground(site),
    mostW: mostPowerW(site),
    isNarrowed: narrowBy !== undefined,
    expected,
    hasReadings,
    read: (step, input, powerW) =>
      edit(
        (before) => setReading(before, step, input, powerW, new Date().toISOString()),
        `reading ${step} ${input.meter} ${input.input}`,
      ),
    readAfter: (step, node, afterW) => edit((before) => setAfter(before, step, node, afterW), `after ${step} ${node}`),
    change: (step, change, field) => edit((before) => changeStep(before, step, change), field),
    addBlank: () => edit((before) => addBlankStep(before, crypto.randomUUID())),
    addPlanned: (steps) => edit((before) => addPlanned(before, steps, () => crypto.randomUUID())),
    addProposed: (test) =>
      editor.edit((document) => ({ ...document, ...addTest(document, test, crypto.randomUUID()) })),
    repeat: (step) => edit((before) => repeatStep(before, step, crypto.randomUUID())),
    remove: (step) => edit((before) => ({ ...before, steps: before.steps.toSpliced(step, 1) })),
    assume: (change, field) => edit((before) => ({ ...before, ...change }), field),
    cure: (faults) =>
      editor.edit((document) => ({
        ...document,
        ...afterClampChange(document, curedSite(document.site, faults), new Date().toISOString()),
      })),
    take: (step, round, source) =>
      editor.edit((document) => ({
        ...document,
        tests: takenStep({ ...document, sheet: document.tests }, step, round, new Date().toISOString(), source),
      })),
    simulate: () =>
      editor.edit((document) => ({
        ...document,
        // The revision is the seed: the same each time for the same job, another after the next change.
        tests: { ...document.tests, steps: simulateSeen(document.site, document.tests, seededNormal(job.revision)) },
      })),
  };
}
