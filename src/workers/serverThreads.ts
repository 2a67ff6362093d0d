import { Worker } from "node:worker_threads";
import type { ComputeAnswer, ComputeName } from "@/workers/computeTasks";
import type { ImportedFile, ImportReading, KitReading, LoggedJob, ReadyJob, SaveReading } from "@/workers/jobTasks";
import { threadPool, type PoolAnswer, type ThreadPool } from "@/workers/pool/threadPool";

/** Heavy computing: as many threads as a small machine has cores. */
const HEAVY = { threads: 2, perPerson: 2, waitingPerPerson: 8, waiting: 24, timeMs: 12_000, keepMs: 60_000 };
/** Reading and summing up what is saved: a thread of its own, so that no diagnosis holds up a save. A second one
 * would take a small machine's cores from everybody. */
const READING = { threads: 1, perPerson: 1, waitingPerPerson: 12, waiting: 150, timeMs: 8_000, keepMs: 60_000 };
const MEMORY = { maxOldGenerationSizeMb: 640, maxYoungGenerationSizeMb: 64 };

/** Who asks, and the signal by which they leave. */
export interface Asking {
  readonly person: string;
  readonly signal: AbortSignal;
}

export type ThreadOutcome<T> =
  { readonly kind: "done"; readonly value: T } | Exclude<PoolAnswer, { readonly kind: "done" }>;

// Next.js loads modules anew on every change while developing; the threads must outlive that.
const kept = globalThis as typeof globalThis & { gormitHeavy?: ThreadPool; gormitReading?: ThreadPool };

const open = () => new Worker(new URL("./compute.server.ts", import.meta.url), { resourceLimits: MEMORY });

/** Answer a compute route. */
export function computed(name: ComputeName, body: Uint8Array, asking: Asking): Promise<ThreadOutcome<ComputeAnswer>> {
  kept.gormitHeavy ??= threadPool(open, HEAVY);
  return outcome(kept.gormitHeavy, "compute", { name, body }, asking);
}

export function saveRead(body: Uint8Array, asking: Asking): Promise<ThreadOutcome<SaveReading>> {
  return outcome(reading(), "save", body, asking);
}

export function importRead(file: ImportedFile, asking: Asking): Promise<ThreadOutcome<ImportReading>> {
  return outcome(reading(), "import", file, asking);
}

export function kitRead(body: Uint8Array, asking: Asking): Promise<ThreadOutcome<KitReading>> {
  return outcome(reading(), "kit", body, asking);
}

export function jobSummarised({ document, entries }: LoggedJob, asking: Asking): Promise<ThreadOutcome<ReadyJob>> {
  return outcome(reading(), "summary", { document, entries }, asking);
}

function reading(): ThreadPool {
  kept.gormitReading ??= threadPool(open, READING);
  return kept.gormitReading;
}

async function outcome<T>(
  pool: ThreadPool,
  name: string,
  input: unknown,
  { person, signal }: Asking,
): Promise<ThreadOutcome<T>> {
  // The thread's tasks are typed by the functions that this file names; a cast here, once, stands for both sides.
  return (await pool.run({ name, input }, person, signal)) as ThreadOutcome<T>;
}
