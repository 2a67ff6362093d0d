"use client";

import { useEffect, useState } from "react";
import type { Diagnosis, DiagnosisProgress } from "@/core/flows/diagnose";
import { freshSheet } from "@/core/flows/staleReadings";
import type { JobDocument } from "@/core/job/jobDocument";
import { heardUntilAnswered } from "@/ui/parts/worker/heardUntilAnswered";
import { useWorkerThread } from "@/ui/parts/worker/useWorkerThread";
import type { DiagnosisWorker } from "@/workers/diagnosis.worker";
import { WORKSPACE_WORDS } from "@/ui/words/workspaceWords";

/** Somebody who types goes on within this; a diagnosis of every keystroke would be thrown away. */
const START_AFTER_MS = 120;

export interface DiagnosisState {
  /** The last finished diagnosis; stays while a newer one is under way. */
  readonly diagnosis: Diagnosis | undefined;
  readonly running: DiagnosisProgress | undefined;
  /** Why there is none: too many combinations, or a defect. */
  readonly message: string | undefined;
  /** The job was changed since: an answer is on its way. */
  readonly isOutdated: boolean;
  readonly cancel: () => void;
}

/** What is known, and of which request. */
interface Answer extends Omit<DiagnosisState, "cancel" | "isOutdated"> {
  readonly of: string;
}

/** A thread of its own for what a diagnosis computes. */
export const diagnosisThread = () =>
  new Worker(new URL("../../workers/diagnosis.worker.ts", import.meta.url), { type: "module" });

/** Diagnose a job's test sheet in a web worker, again after every change of the site or the sheet. */
export function useDiagnosis({ site, tests }: JobDocument): DiagnosisState {
  const worker = useWorkerThread<DiagnosisWorker>(diagnosisThread);
  const [state, setState] = useState<Answer>({ of: "", diagnosis: undefined, running: undefined, message: undefined });

  // What is fitted plays no part in a diagnosis: only what is intended and what was seen since it was changed last.
  const request = JSON.stringify({ site: { ...site, cts: [] }, ...freshSheet(site, tests) });
  useEffect(() => {
    let outdated = false;
    const show = (running: DiagnosisProgress) => {
      if (!outdated) setState((before) => ({ ...before, running }));
    };
    const start = () => {
      const remote = worker.current;
      if (!remote) return;
      heardUntilAnswered(
        async (onProgress: (running: DiagnosisProgress) => void) => remote.diagnose(JSON.parse(request), onProgress),
        show,
      ).then(
        (outcome) => !outdated && setState((before) => answerOf(outcome, request, before)),
        (error: unknown) =>
          !outdated &&
          setState(
            without(
              request,
              WORKSPACE_WORDS.theDiagnosisFailed(
                error instanceof Error ? error.message : WORKSPACE_WORDS.unknownReason,
              ),
            ),
          ),
      );
    };
    const timer = setTimeout(start, START_AFTER_MS);
    return () => {
      outdated = true;
      clearTimeout(timer);
    };
  }, [request, worker]);

  const { of, ...answer } = state;
  return { ...answer, isOutdated: of !== request, cancel: () => void worker.current?.cancel() };
}

function answerOf(outcome: Awaited<ReturnType<DiagnosisWorker["diagnose"]>>, of: string, before: Answer): Answer {
  switch (outcome.kind) {
    case "diagnosed":
      return { of, diagnosis: outcome.diagnosis, running: undefined, message: undefined };
    case "too-many":
      return without(of, WORKSPACE_WORDS.combinationsOfFaultsAreTooMany(outcome.combinations.toLocaleString("en")));
    case "too-costly":
      return without(of, WORKSPACE_WORDS.thisWouldTakeAboutSLookForFewer(Math.round(outcome.costMs / 1000)));
    case "cancelled":
      return {
        ...before,
        of,
        running: undefined,
        message: WORKSPACE_WORDS.stoppedLookForFewerFaultsAtOnce,
      };
  }
}

function without(of: string, message: string): Answer {
  return { of, diagnosis: undefined, running: undefined, message };
}
