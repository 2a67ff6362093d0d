"use client";

import type * as Comlink from "comlink";
import { useMemo } from "react";
import type { ExportLimitRequest, ExportLimitResult } from "@/core/simulation/exportLimitSchema";
import type { LimitCost, LimitCostRequest } from "@/core/simulation/limitCost";
import { limitCostOfPlan } from "@/core/control/limitCostOfPlan";
import { exportLimiter, limitRequest, type ExportLimiter, type ScenarioId } from "@/core/control/exportLimiter";
import { resolve } from "@/core/plan/resolve";
import type { ResolvedPlan } from "@/core/plan/resolvedPlan";
import { safeSetPointW } from "@/core/simulation/exportLimit";
import type { JobDocument } from "@/core/job/jobDocument";
import type { LimitSettings } from "@/core/plan/limitSettings";
import { useWorkerAnswer, type WorkerAnswer } from "@/ui/parts/worker/useWorkerAnswer";
import { useEditor, useJob } from "@/ui/workspace/workspaceContext";
import type { ControlWorker } from "@/workers/control.worker";

export interface LimitDesk {
  readonly document: JobDocument;
  readonly limit: LimitSettings;
  readonly plan: ResolvedPlan;
  /** Who limits; undefined while nobody in the plan can. */
  readonly limiter: ExportLimiter | undefined;
  /** What keeps the true export within the limit, W. */
  readonly safeW: number;
  readonly set: (change: Partial<LimitSettings>, field?: string) => void;
}

export const controlThread = () =>
  new Worker(new URL("../../workers/control.worker.ts", import.meta.url), { type: "module" });

/** Binds the limit of the open job to the page. */
export function useLimit(): LimitDesk {
  const editor = useEditor();
  const job = useJob();
  const { document } = job;
  const { limit } = document;
  const plan = resolve(document);
  const limiter = useMemo(() => exportLimiter(plan), [plan]);
  const safeW = limiter ? safeSetPointW(limit.powerW ?? 0, limiter.errorPct, limit.deadBandW) : 0;
  return {
    document,
    limit,
    plan,
    limiter,
    safeW,
    set: (change, field) =>
      editor.edit((before) => ({ ...before, limit: { ...before.limit, ...change } }), field && `limit ${field}`),
  };
}

const askExport = (worker: Comlink.Remote<ControlWorker>, request: ExportLimitRequest) => worker.exportLimit(request);
const askCost = (worker: Comlink.Remote<ControlWorker>, request: LimitCostRequest) => worker.limitCost(request);

/** Run a request in the worker whenever it changes; the last answer stays until the next is there. */
export function useExportTrace(
  request: ExportLimitRequest | undefined,
): WorkerAnswer<ExportLimitRequest, ExportLimitResult> {
  return useWorkerAnswer<ControlWorker, ExportLimitRequest, ExportLimitResult>(controlThread, request, askExport);
}

/** What limit and margin cost a year, in a worker. */
export function useLimitCost({ plan, limiter }: LimitDesk): WorkerAnswer<LimitCostRequest, LimitCost> {
  const request = useMemo(() => (limiter ? limitCostOfPlan(plan, limiter) : undefined), [plan, limiter]);
  return useWorkerAnswer<ControlWorker, LimitCostRequest, LimitCost>(controlThread, request, askCost);
}

/** The request of a scenario; undefined while nobody limits or there is no limit. */
export function useScenario(
  { limit, plan, limiter }: LimitDesk,
  scenario: ScenarioId,
  withOthers: boolean,
): ExportLimitRequest | undefined {
  return useMemo(
    () => (limiter && limit.powerW !== undefined ? limitRequest(plan, limiter, scenario, withOthers) : undefined),
    [limit.powerW, plan, limiter, scenario, withOthers],
  );
}
