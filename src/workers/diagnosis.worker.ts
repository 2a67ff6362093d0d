import * as Comlink from "comlink";
import {
  diagnoseInSlices,
  diagnoseRequestSchema,
  type DiagnosisOutcome,
  type DiagnosisProgress,
} from "@/core/flows/diagnose";
import { diagnoseLog, type LogDiagnosis } from "@/core/flows/log/diagnoseLog";
import { expectedLog, type ExpectedSeries } from "@/core/flows/log/expectedLog";
import { sureFaults } from "@/core/flows/expectedReadings";
import { diagnoseLogRequestSchema } from "@/core/flows/log/logSchema";
import {
  proofPlan,
  proofPlanRequestSchema,
  proofTable,
  type ProofPlan,
  type ProofTable,
} from "@/core/flows/proof/proofPlan";
import type { KnownDevice } from "@/core/flows/testSheetSchema";
import { breathing } from "@/workers/breathing";

/** What a log comes to, with what every input should have read in it. */
export interface ProvenLog {
  readonly diagnosis: LogDiagnosis;
  readonly bands: readonly ExpectedSeries[];
}

let newest = 0;

/** Diagnosis off the page's thread. A newer call, or `cancel`, ends the one under way. */
const api = {
  async diagnose(
    request: unknown,
    onProgress: (progress: DiagnosisProgress) => void,
  ): Promise<DiagnosisOutcome | { readonly kind: "cancelled" }> {
    const own = ++newest;
    const { site, ...sheet } = diagnoseRequestSchema.parse(request);
    const outcome = await breathing(diagnoseInSlices(site, sheet), () => own === newest, onProgress);
    return outcome === "cancelled" ? { kind: "cancelled" } : outcome;
  },
  log(request: unknown): ProvenLog {
    const { site, ...log } = diagnoseLogRequestSchema.parse(request);
    const diagnosis = diagnoseLog(site, log);
    return { diagnosis, bands: expectedLog(site, log, sureFaults(diagnosis)) };
  },
  proofPlan(request: unknown): ProofPlan {
    const { site, ...assumed } = proofPlanRequestSchema.parse(request);
    return proofPlan(site, assumed);
  },
  proofTable({ request, steps }: { request: unknown; steps: readonly (readonly KnownDevice[])[] }): ProofTable {
    const { site, ...assumed } = proofPlanRequestSchema.parse(request);
    return proofTable(site, assumed, steps);
  },
  cancel(): void {
    newest++;
  },
};

export type DiagnosisWorker = typeof api;

Comlink.expose(api);
