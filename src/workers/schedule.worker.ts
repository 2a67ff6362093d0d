import * as Comlink from "comlink";
import { scheduleInSlices, type ScheduleOutcome } from "@/core/procedure/schedule/schedule";
import { scheduleRequestSchema } from "@/core/procedure/schedule/scheduleSchema";

const BREATHE_EVERY_MS = 40;

let newest = 0;

/** Scheduling off the page's thread. A newer call ends the one under way. */
const api = {
  async plan(request: unknown): Promise<ScheduleOutcome | { readonly kind: "cancelled" }> {
    const own = ++newest;
    const work = scheduleInSlices(scheduleRequestSchema.parse(request));
    for (let breathed = performance.now(); ; ) {
      const { done, value } = work.next();
      if (done) return value;
      if (performance.now() - breathed < BREATHE_EVERY_MS) continue;
      await new Promise((resolve) => setTimeout(resolve));
      breathed = performance.now();
      if (own !== newest) return { kind: "cancelled" };
    }
  },
};

export type ScheduleWorker = typeof api;

Comlink.expose(api);
