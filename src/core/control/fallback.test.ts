import * as fc from "fast-check";
import { describe, expect, it } from "vitest";
import { typedFallback, watchFallback, type FallbackOfInverter } from "@/core/control/fallback";

const ONE: FallbackOfInverter = {
  node: "sun",
  name: "Roof inverter",
  ratedW: 5000,
  fallbackW: 0,
  afterS: 30,
  latestS: 36,
};
const everySecond = (from: number, to: number) => Array.from({ length: to - from + 1 }, (_, at) => (from + at) * 1000);

/** What an inverter says once a second until a time: one power up to a moment, another from then on. */
function samples(untilS: number, downS: number, device = "sun") {
  return everySecond(0, untilS).map((atMs) => ({ device, atMs, powerW: atMs < downS * 1000 ? 3200 : 0 }));
}

describe("the test without the meter", () => {
  it("waits while the meter answers", () => {
    expect(watchFallback([ONE], everySecond(0, 20), samples(20, 99))).toEqual({ kind: "heard", madeW: 3200 });
    expect(watchFallback([ONE], [], [])).toEqual({ kind: "heard", madeW: 0 });
  });

  it("counts from the meter's last answer, which a late one is not yet", () => {
    expect(watchFallback([ONE], everySecond(0, 10), samples(12, 99)).kind).toBe("heard");
    const watch = watchFallback([ONE], everySecond(0, 10), samples(25, 99));
    expect(watch).toEqual({ kind: "silent", seconds: 15, madeW: 3200 });
    // A meter that is asked every 5 s is not silent after 8.
    expect(watchFallback([ONE], [0, 5000, 10_000], samples(18, 99)).kind).toBe("heard");
  });

  it("is over when every inverter is at its fallback, in time or too late", () => {
    const inTime = watchFallback([ONE], everySecond(0, 10), samples(50, 41));
    expect(inTime).toMatchObject({
      kind: "over",
      outcome: { verdict: "falls-back", seconds: 31, beforeW: 3200, afterW: 0, plannedS: 30, latestS: 36 },
    });
    const late = watchFallback([ONE], everySecond(0, 10), samples(60, 55));
    expect(late).toMatchObject({ kind: "over", outcome: { verdict: "late", seconds: 45 } });
    const two = [ONE, { ...ONE, node: "barn" }];
    const both = [...samples(60, 41), ...samples(60, 44, "barn")].toSorted((a, b) => a.atMs - b.atMs);
    expect(watchFallback(two, everySecond(0, 10), both)).toMatchObject({ outcome: { seconds: 34, beforeW: 6400 } });
  });

  it("says that an inverter goes on, and that nothing could fall", () => {
    expect(watchFallback([ONE], everySecond(0, 10), samples(90, 999))).toMatchObject({ outcome: { verdict: "stays" } });
    expect(watchFallback([ONE], everySecond(0, 10), samples(20, 0))).toMatchObject({
      outcome: { verdict: "untested" },
    });
  });

  it("counts from the plug where the meter is not read", () => {
    expect(watchFallback([ONE], [], samples(50, 41), 12_000)).toMatchObject({ outcome: { seconds: 29 } });
  });

  it("gives the same from a watch and the displays", () => {
    const judge = (beforeW: number, afterW: number, seconds: number) =>
      typedFallback([ONE], { beforeW, afterW, seconds }).verdict;
    expect([judge(3200, 0, 31), judge(3200, 0, 40), judge(3200, 3100, 60), judge(100, 0, 31)]).toEqual([
      "falls-back",
      "late",
      "stays",
      "untested",
    ]);
  });

  it("finds the time that it took, whatever it was", () => {
    fc.assert(
      fc.property(fc.integer({ min: 2, max: 40 }), fc.integer({ min: 4, max: 70 }), (lastS, tookS) => {
        const watch = watchFallback([ONE], everySecond(0, lastS), samples(lastS + 80, lastS + tookS));
        expect(watch).toMatchObject({
          outcome: { seconds: tookS, verdict: tookS <= ONE.latestS ? "falls-back" : "late" },
        });
      }),
    );
  });
});
