import { setImmediate } from "node:timers/promises";

/** Run work in slices: let other requests in between, and stop when nobody waits for the answer any more. */
export async function breathing<P, T>(work: Generator<P, T>, signal: AbortSignal): Promise<T> {
  for (;;) {
    const { done, value } = work.next();
    if (done) return value;
    await setImmediate();
    signal.throwIfAborted();
  }
}
