import { setImmediate } from "node:timers/promises";
import type { MessagePort } from "node:worker_threads";
import { threadAskSchema } from "@/workers/pool/threadMessages";

/**
 * A task of a thread: an answer at once, or work in slices after each of which it hears whether anybody still waits.
 */
export type ThreadWork = (input: unknown) => Generator<unknown, unknown> | Promise<unknown>;

/** Answer the tasks that come through a port, one after the other. */
export function serveTasks(port: MessagePort, tasks: Readonly<Record<string, ThreadWork>>): void {
  port.on("message", (message: unknown) => {
    const { name, input, stop } = threadAskSchema.parse(message);
    void answer(tasks[name], input, stop).then(
      (value) => port.postMessage(value === ABORTED ? { kind: "aborted" } : { kind: "done", value }),
      (error: unknown) =>
        port.postMessage({
          kind: "failed",
          message: error instanceof Error ? error.message : String(error),
          stack: error instanceof Error ? error.stack : undefined,
        }),
    );
  });
}

const ABORTED = Symbol("aborted");
/** Between two chances for anything else that waits for the thread: a breath costs more than a short slice. */
const BREATHE_EVERY_MS = 10;

async function answer(work: ThreadWork | undefined, input: unknown, stop: Int32Array): Promise<unknown> {
  if (!work) throw new Error("serveTasks: there is no such task");
  const result = work(input);
  if (result instanceof Promise) return result;
  for (let breathed = performance.now(); ;) {
    const { done, value } = result.next();
    if (done) return value;
    if (Atomics.load(stop, 0) === 1) return ABORTED;
    if (performance.now() - breathed < BREATHE_EVERY_MS) continue;
    await setImmediate();
    breathed = performance.now();
  }
}
