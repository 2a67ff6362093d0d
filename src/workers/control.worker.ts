import * as Comlink from "comlink";
import { diversionInSlices } from "@/core/simulation/diversion";
import { diversionRequestSchema, type DiversionResult } from "@/core/simulation/diversionSchema";
import { exportLimit } from "@/core/simulation/exportLimit";
import { exportLimitRequestSchema, type ExportLimitResult } from "@/core/simulation/exportLimitSchema";
import { limitCost, limitCostRequestSchema, type LimitCost } from "@/core/simulation/limitCost";
import { breathing } from "@/workers/breathing";

let newest = 0;

/** Control in simulation, off the page's thread. A newer diversion, or `cancel`, ends the one under way. */
const api = {
  exportLimit(request: unknown): ExportLimitResult {
    return exportLimit(exportLimitRequestSchema.parse(request));
  },
  limitCost(request: unknown): LimitCost {
    return limitCost(limitCostRequestSchema.parse(request));
  },
  async diversion(request: unknown, onProgress: (share: number) => void): Promise<DiversionResult | undefined> {
    const own = ++newest;
    const work = diversionInSlices(diversionRequestSchema.parse(request));
    const result = await breathing(work, () => own === newest, onProgress);
    return result === "cancelled" ? undefined : result;
  },
  cancel(): void {
    newest++;
  },
};

export type ControlWorker = typeof api;

Comlink.expose(api);
