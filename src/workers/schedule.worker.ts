import * as Comlink from "comlink";
import { scheduleInSlices, type ScheduleOutcome } from "@/core/visit/schedule/schedule";
import { scheduleRequestSchema } from "@/core/visit/schedule/scheduleSchema";
import { breathing } from "@/workers/breathing";

let newest = 0;

/** Scheduling off the page's thread. A newer call ends the one under way. */
const api = {
  async plan(request: unknown): Promise<ScheduleOutcome | { readonly kind: "cancelled" }> {
    const own = ++newest;
    const work = scheduleInSlices(scheduleRequestSchema.parse(request));
    const outcome = await breathing(work, () => own === newest);
    return outcome === "cancelled" ? { kind: "cancelled" } : outcome;
  },
};

export type ScheduleWorker = typeof api;

Comlink.expose(api);
