"use client";

import { useEffect, useMemo, useRef, useState } from "react";
import * as Comlink from "comlink";
import { diversionOfPlan } from "@/core/control/divertOfPlan";
import type { DiversionRequest, DiversionResult, DiversionTotals } from "@/core/simulation/diversionSchema";
import type { DivertSettings } from "@/core/plan/divertSettings";
import { resolve } from "@/core/plan/resolve";
import type { ResolvedPlan } from "@/core/plan/resolvedPlan";
import type { JobDocument } from "@/core/job/jobDocument";
import { controlThread } from "@/ui/limit/useLimit";
import { failureText, useWorkerAnswer, type WorkerAnswer } from "@/ui/parts/worker/useWorkerAnswer";
import { useEditor, useJob } from "@/ui/workspace/workspaceContext";
import type { ControlWorker } from "@/workers/control.worker";

/** Values of a file instead of sun or house; they stay on the page. */
export interface OwnSeries {
  readonly sunW?: readonly number[];
  readonly houseW?: readonly number[];
}

export interface DivertDesk {
  readonly document: JobDocument;
  readonly plan: ResolvedPlan;
  readonly divert: DivertSettings;
  readonly set: (change: Partial<DivertSettings>, field?: string) => void;
  readonly own: OwnSeries;
  readonly setOwn: (own: OwnSeries) => void;
  /** The day in the plan's terms, with its flows. */
  readonly dayRequest: DiversionRequest;
}

/** Binds the surplus of the open job to the page. */
export function useDivert(): DivertDesk {
  const editor = useEditor();
  const job = useJob();
  const { document } = job;
  const { divert } = document;
  const plan = resolve(document);
  const [own, setOwn] = useState<OwnSeries>({});
  const dayRequest = useMemo(
    () => ({
      ...diversionOfPlan(plan, { days: 1, stepMin: 1, series: true }),
      ...(own.sunW ? { sunW: [...own.sunW] } : {}),
      ...(own.houseW ? { houseW: [...own.houseW] } : {}),
    }),
    [plan, own],
  );
  return {
    document,
    plan,
    divert,
    own,
    setOwn,
    dayRequest,
    set: (change, field) =>
      editor.edit((before) => ({ ...before, divert: { ...before.divert, ...change } }), field && `divert ${field}`),
  };
}

const askDiversion = (worker: Comlink.Remote<ControlWorker>, request: DiversionRequest) =>
  worker.diversion(
    request,
    Comlink.proxy(() => undefined),
  );

/** Simulate a request in a worker whenever it changes. */
export function useDiversion(request: DiversionRequest): WorkerAnswer<DiversionRequest, DiversionResult> {
  return useWorkerAnswer<ControlWorker, DiversionRequest, DiversionResult>(controlThread, request, askDiversion);
}

interface Variant {
  readonly name: string;
  readonly request: DiversionRequest;
}

export interface Sweep {
  readonly rows: readonly (DiversionTotals & { readonly variant: string })[];
  readonly done: number;
  readonly all: number;
  readonly isRunning: boolean;
  readonly failure: string | undefined;
  readonly start: (variants: readonly Variant[]) => void;
  readonly cancel: () => void;
}

/** Many years, on as many threads as there are cores; each row as it is done. */
export function useSweep(): Sweep {
  const [state, setState] = useState<SweepState>({
    rows: [],
    done: 0,
    all: 0,
    isRunning: false,
    failure: undefined,
  });
  const started = useRef(0);
  const threads = useRef<Worker[]>([]);
  const stop = () => {
    started.current++;
    for (const thread of threads.current) thread.terminate();
    threads.current = [];
  };
  useEffect(
    () => () => {
      for (const thread of threads.current) thread.terminate();
    },
    [],
  );
  return {
    ...state,
    start: (variants) => {
      stop();
      const own = started.current;
      const isMine = () => own === started.current;
      setState({ rows: [], done: 0, all: variants.length, isRunning: true, failure: undefined });
      const waiting = [...variants];
      const count = Math.min(variants.length, Math.max(1, navigator.hardwareConcurrency || 2));
      threads.current = Array.from({ length: count }, controlThread);
      for (const thread of threads.current)
        workThrough(thread, waiting, (rows) => isMine() && setState((before) => withRows(before, rows))).catch(
          (error: unknown) => {
            if (!isMine()) return;
            stop();
            setState((before) => ({ ...before, isRunning: false, failure: failureText(error) }));
          },
        );
    },
    cancel: () => {
      stop();
      setState((before) => ({ ...before, isRunning: false }));
    },
  };
}

type SweepState = Omit<Sweep, "start" | "cancel">;

/** Take variants from a list that several threads share until it is empty; each one's rows as they come. */
async function workThrough(thread: Worker, waiting: Variant[], onRows: (rows: Sweep["rows"]) => void): Promise<void> {
  const worker = Comlink.wrap<ControlWorker>(thread);
  for (let next = waiting.shift(); next; next = waiting.shift()) {
    const { name, request } = next;
    const result = await askDiversion(worker, request);
    onRows((result?.totals ?? []).map((totals) => ({ ...totals, variant: name })));
  }
  thread.terminate();
}

function withRows(before: SweepState, rows: Sweep["rows"]): SweepState {
  const done = before.done + 1;
  return { ...before, done, isRunning: done < before.all, rows: [...before.rows, ...rows] };
}
