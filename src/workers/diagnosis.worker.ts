import * as Comlink from "comlink";
import {
  diagnoseInSlices,
  diagnoseRequestSchema,
  type DiagnosisOutcome,
  type DiagnosisProgress,
} from "@/core/flows/diagnose";

const BREATHE_EVERY_MS = 40;

let newest = 0;

/** Diagnosis off the page's thread. A newer call, or `cancel`, ends the one under way. */
const api = {
  async diagnose(
    request: unknown,
    onProgress: (progress: DiagnosisProgress) => void,
  ): Promise<DiagnosisOutcome | { readonly kind: "cancelled" }> {
    const own = ++newest;
    const { site, ...sheet } = diagnoseRequestSchema.parse(request);
    const work = diagnoseInSlices(site, sheet);
    for (let breathed = performance.now(); ; ) {
      const { done, value } = work.next();
      if (done) return value;
      if (performance.now() - breathed < BREATHE_EVERY_MS) continue;
      onProgress(value);
      await new Promise((resolve) => setTimeout(resolve));
      breathed = performance.now();
      if (own !== newest) return { kind: "cancelled" };
    }
  },
  cancel(): void {
    newest++;
  },
};

export type DiagnosisWorker = typeof api;

Comlink.expose(api);
