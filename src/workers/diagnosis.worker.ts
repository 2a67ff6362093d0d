import * as Comlink from "comlink";
import {
  diagnoseInSlices,
  diagnoseRequestSchema,
  type DiagnosisOutcome,
  type DiagnosisProgress,
} from "@/core/flows/diagnose";
import { breathing } from "@/workers/breathing";

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
  cancel(): void {
    newest++;
  },
};

export type DiagnosisWorker = typeof api;

Comlink.expose(api);
