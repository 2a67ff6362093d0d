"use client";

import { useEffect, useMemo, useState } from "react";
import type { ExportLimitRequest, ExportLimitResult } from "@/core/control/exportLimitSchema";
import type { LimitCost } from "@/core/control/limitCost";
import { limitCostOfPlan } from "@/core/controlOfPlan/limitCostOfPlan";
import { limitPlan, limitRequest, type LimitPlan, type ScenarioId } from "@/core/controlOfPlan/limitOfPlan";
import { safeSetPointW } from "@/core/control/exportLimit";
import type { JobDocument } from "@/core/job/jobDocument";
import type { LimitSettings } from "@/core/job/limitSettings";
import { useWorkerThread } from "@/ui/parts/useWorkerThread";
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

export const controlThread = () => new Worker(new URL("../../workers/control.worker.ts", import.meta.url), { type: "module" });

/** Binds the limit of the open job to the page. */
export function useLimit(): LimitDesk {
  const { editor, job } = useWorkspace();
  const { document } = job;
  const { site, kits, links, limit } = document;
  const plan = useMemo(() => limitPlan({ site, kits, links, limit }), [site, kits, links, limit]);
  const safeW = plan ? safeSetPointW(limit.powerW ?? 0, plan.errorPct, limit.deadBandW) : 0;
  return { document, limit, plan, safeW, set: (change, field) => editor.edit((before) => ({ ...before, limit: { ...before.limit, ...change } }), field && `limit ${field}`) };
}

/** Run a request in the worker whenever it changes; the last answer stays until the next is there. */
export function useExportRun(request: ExportLimitRequest | undefined): { readonly result: ExportLimitResult | undefined; readonly isBusy: boolean } {
  const worker = useWorkerThread<ControlWorker>(controlThread);
  const [answer, setAnswer] = useState<{ readonly of: string; readonly result: ExportLimitResult } | undefined>();
  const text = request && JSON.stringify(request);
  useEffect(() => {
    if (text === undefined) return;
    let isOutdated = false;
    void worker.current?.exportLimit(JSON.parse(text)).then((result) => { if (!isOutdated) setAnswer({ of: text, result }); });
    return () => { isOutdated = true; };
  }, [text, worker]);
  return { result: answer?.result, isBusy: text !== undefined && answer?.of !== text };
}

/** What limit and margin cost a year, in a worker. */
export function useLimitCost({ document, plan }: LimitDesk): LimitCost | undefined {
  const worker = useWorkerThread<ControlWorker>(controlThread);
  const [cost, setCost] = useState<LimitCost | undefined>();
  const request = useMemo(() => (plan ? limitCostOfPlan(document, plan) : undefined), [document, plan]);
  const text = request && JSON.stringify(request);
  useEffect(() => {
    if (text === undefined) return;
    let isOutdated = false;
    void worker.current?.limitCost(JSON.parse(text)).then((answer) => { if (!isOutdated) setCost(answer); });
    return () => { isOutdated = true; };
  }, [text, worker]);
  return cost;
}

/** The request of a scenario; undefined while there is no plan or no limit. */
export function useScenario({ document, limit, plan }: LimitDesk, scenario: ScenarioId, withOthers: boolean): ExportLimitRequest | undefined {
  return useMemo(() => (plan && limit.powerW !== undefined ? limitRequest(document, plan, scenario, withOthers) : undefined), [document, limit.powerW, plan, scenario, withOthers]);
}
