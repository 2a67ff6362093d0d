import { createStore, get, set, type UseStore } from "idb-keyval";
import { jobAnswerSchema, visitLogSchema } from "@/core/answers/jobAnswers";
import type { ServerJob } from "@/ui/workspace/safekeeping/jobEditor";
import type { SeenLog } from "@/ui/workspace/visit/visitRecorder";

let store: UseStore | undefined;

/** Opened at the first use: a server that renders the page has no such store. */
function kept(): UseStore {
  store ??= createStore("gormit-kept", "jobs");
  return store;
}

/** A job as the server had it last, as far as this browser knows; nothing where it keeps nothing. */
export async function keptJob(id: string): Promise<ServerJob | undefined> {
  const found = jobAnswerSchema.safeParse(await get<unknown>(`job ${id}`, kept()).catch(() => undefined));
  return found.success ? found.data : undefined;
}

/** Keep a job as the server has it, for where there is no connection. */
export async function keepJob(job: ServerJob): Promise<void> {
  await set(`job ${job.id}`, job, kept()).catch(() => undefined);
}

/** The log of a job as the server had it last. */
export async function keptLog(id: string): Promise<SeenLog | undefined> {
  const found = visitLogSchema.safeParse(await get<unknown>(`log ${id}`, kept()).catch(() => undefined));
  return found.success ? found.data : undefined;
}

/** Keep the log of a job as the server has it. */
export async function keepLog(id: string, log: SeenLog): Promise<void> {
  await set(`log ${id}`, log, kept()).catch(() => undefined);
}
