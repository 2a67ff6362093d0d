import { Pool } from "tarn";
import type { Worker } from "node:worker_threads";
import { admission, type Admission, type PoolLimits } from "@/workers/pool/admission";
import { threadAnswerSchema, type ThreadTask } from "@/workers/pool/threadMessages";

/** A thread that was told to stop has this long to hear it, then it is ended. */
const GRACE_MS = 250;

export type PoolAnswer =
  | { readonly kind: "done"; readonly value: unknown }
  /** Too much is being computed already; try again after so many seconds. */
  | { readonly kind: "busy"; readonly whose: "person" | "everybody"; readonly retryAfterS: number }
  | { readonly kind: "too-long"; readonly limitMs: number }
  | { readonly kind: "too-large" }
  /** Nobody waits for the answer any more. */
  | { readonly kind: "aborted" };

export interface ThreadPool {
  /** Run a task of the threads for a person. Throws what the task throws. */
  run(task: ThreadTask, person: string, signal: AbortSignal): Promise<PoolAnswer>;
  close(): Promise<void>;
}

/**
 * Threads that compute what would hold everybody else up, with limits of time and memory, a short queue, and a fair
 * share for each person. A thread that takes too long, grows too large, or does not hear that nobody waits, is ended;
 * the next task gets a new one.
 *
 * @param open Starts one thread; it must name the thread's file itself, so that it is built.
 */
export function threadPool(open: () => Worker, limits: PoolLimits): ThreadPool {
  const gate: Admission = admission(limits);
  /** Ended, or of no use any more: not given to anybody again. */
  const spent = new WeakSet<Worker>();
  const threads = new Pool<Worker>({
    min: 0,
    max: limits.threads,
    idleTimeoutMillis: limits.keepMs,
    acquireTimeoutMillis: 10_000,
    propagateCreateError: true,
    create: async () => {
      const thread = open();
      // One that dies between two tasks must not take the program with it.
      thread.on("error", () => spent.add(thread));
      thread.on("exit", () => spent.add(thread));
      return thread;
    },
    validate: (thread) => !spent.has(thread),
    destroy: async (thread) => {
      await thread.terminate();
    },
  });
  return {
    close: async () => {
      await threads.destroy();
    },
    async run(task, person, signal) {
      const turn = await gate.enter(person, signal);
      if (turn.kind !== "entered") return turn;
      try {
        const thread = await threads.acquire().promise;
        const { answer, isSpent } = await ask(thread, task, signal, limits.timeMs);
        if (isSpent) {
          spent.add(thread);
          await thread.terminate();
        }
        threads.release(thread);
        if (answer.kind === "failed") throw answer.error;
        return answer;
      } finally {
        turn.leave();
      }
    },
  };
}

type Asked = {
  readonly answer: PoolAnswer | { readonly kind: "failed"; readonly error: Error };
  readonly isSpent: boolean;
};

function ask(thread: Worker, task: ThreadTask, signal: AbortSignal, timeMs: number): Promise<Asked> {
  const stop = new Int32Array(new SharedArrayBuffer(4));
  return new Promise<Asked>((resolve) => {
    let grace: NodeJS.Timeout | undefined;
    const settle = (asked: Asked) => {
      clearTimeout(limit);
      clearTimeout(grace);
      signal.removeEventListener("abort", abort);
      thread.off("message", hear);
      thread.off("error", fail);
      thread.off("exit", gone);
      resolve(asked);
    };
    const hear = (message: unknown) => {
      const answer = threadAnswerSchema.parse(message);
      if (answer.kind === "failed")
        return settle({
          answer: { kind: "failed", error: new Error(answer.message, { cause: answer.stack }) },
          isSpent: false,
        });
      settle({ answer, isSpent: false });
    };
    const fail = (error: Error & { readonly code?: string }) =>
      settle({
        answer: error.code === "ERR_WORKER_OUT_OF_MEMORY" ? { kind: "too-large" } : { kind: "failed", error },
        isSpent: true,
      });
    const gone = () =>
      settle({ answer: { kind: "failed", error: new Error("the thread ended by itself") }, isSpent: true });
    const abort = () => {
      Atomics.store(stop, 0, 1);
      grace = setTimeout(() => settle({ answer: { kind: "aborted" }, isSpent: true }), GRACE_MS);
    };
    const limit = setTimeout(() => settle({ answer: { kind: "too-long", limitMs: timeMs }, isSpent: true }), timeMs);
    thread.on("message", hear);
    thread.on("error", fail);
    thread.on("exit", gone);
    if (signal.aborted) abort();
    signal.addEventListener("abort", abort);
    thread.postMessage({ ...task, stop });
  });
}
