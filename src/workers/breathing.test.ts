import { expect, test, vi } from "vitest";
import type { Slices } from "@/core/slices";
import { breathing } from "@/workers/breathing";

/** Work of so many slices, each as long as a breath is apart. */
function* slow(slices: number): Slices<string, number> {
  for (let at = 1; at <= slices; at++) {
    vi.advanceTimersByTime(50);
    yield at;
  }
  return "done";
}

function withClock(work: () => Promise<void>): () => Promise<void> {
  return async () => {
    vi.useFakeTimers({ toFake: ["performance"] });
    await work().finally(() => vi.useRealTimers());
  };
}

test(
  "work that is wanted comes to its end and tells how far it is",
  withClock(async () => {
    const told: number[] = [];
    expect(
      await breathing(
        slow(3),
        () => true,
        (at) => told.push(at),
      ),
    ).toBe("done");
    expect(told).toEqual([1, 2, 3]);
  }),
);

test(
  "work that nobody wants any more ends at its next breath",
  withClock(async () => {
    const told: number[] = [];
    expect(
      await breathing(
        slow(100),
        () => told.length < 2,
        (at) => told.push(at),
      ),
    ).toBe("cancelled");
    expect(told).toEqual([1, 2]);
  }),
);
