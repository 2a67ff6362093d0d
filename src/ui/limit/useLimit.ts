"use client";

import type * as Comlink from "comlink";
import { useMemo } from "react";
import type { ExportLimitRequest, ExportLimitResult } from "@/core/control/exportLimitSchema";
import type { LimitCost, LimitCostRequest } from "@/core/control/limitCost";
import { limitCostOfPlan } from "@/core/controlOfPlan/limitCostOfPlan";
import { limitPlan, limitRequest, type LimitPlan, type ScenarioId } from "@/core/controlOfPlan/limitOfPlan";
import { safeSetPointW } from "@/core/control/exportLimit";
import type { JobDocument } from "@/core/job/jobDocument";
import type { LimitSettings } from "@/core/job/limitSettings";
import { useWorkerAnswer, type WorkerAnswer } from "@/ui/parts/worker/useWorkerAnswer";
import { useWorkspace } from "@/ui/workspace/workspaceContext";
import type { ControlWorker } from "@/workers/control.worker";

export interface LimitDesk {
  readonly document: JobDocument;
  readonly limit: LimitSettings;
  readonly plan: LimitPlan | undefined;
  /** What keeps the true export within the limit, W. */
  readonly safeW: number;
  readonly set: (change: Partial<LimitSettings>, field?: string) => void;
}

export const controlThread = () =>
  new Worker(new URL("../../workers/control.worker.ts", import.meta.url), { type: "module" });

/** Binds the limit of the open job to the page. */
export function useLimit(): LimitDesk {
  const { editor, job } = useWorkspace();
  const { document } = job;
  const { site, kits, links, limit } = document;
  const plan = useMemo(() => limitPlan({ site, kits, links, limit }), [site, kits, links, limit]);
  const safeW = plan ? safeSetPointW(limit.powerW ?? 0, plan.errorPct, limit.deadBandW) : 0;
  return {
    document,
    limit,
    plan,
    safeW,
    set: (change, field) =>
      editor.edit((before) => ({ ...before, limit: { ...before.limit, ...change } }), field && `limit ${field}`),
  };
}

const askExport = (worker: Comlink.Remote<ControlWorker>, request: ExportLimitRequest) => worker.exportLimit(request);
const askCost = (worker: Comlink.Remote<ControlWorker>, request: LimitCostRequest) => worker.limitCost(request);

/** Run a request in the worker whenever it changes; the last answer stays until the next is there. */
export function useExportRun(
  request: ExportLimitRequest | undefined,
): WorkerAnswer<ExportLimitRequest, ExportLimitResult> {
  return useWorkerAnswer<ControlWorker, ExportLimitRequest, ExportLimitResult>(controlThread, request, askExport);
}

/** What limit and margin cost a year, in a worker. */
export function useLimitCost({ document, plan }: LimitDesk): WorkerAnswer<LimitCostRequest, LimitCost> {
  const request = useMemo(() => (plan ? limitCostOfPlan(document, plan) : undefined), [document, plan]);
  return useWorkerAnswer<ControlWorker, LimitCostRequest, LimitCost>(controlThread, request, askCost);
}

/** The request of a scenario; undefined while there is no plan or no limit. */
export function useScenario(
  { document, limit, plan }: LimitDesk,
  scenario: ScenarioId,
  withOthers: boolean,
): ExportLimitRequest | undefined {
  return useMemo(
    () => (plan && limit.powerW !== undefined ? limitRequest(document, plan, scenario, withOthers) : undefined),
    [document, limit.powerW, plan, scenario, withOthers],
  );
}
