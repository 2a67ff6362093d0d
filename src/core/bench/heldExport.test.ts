import * as fc from "fast-check";
import { describe, expect, it } from "vitest";
import { HeldExport, type BenchLimiter } from "@/core/bench/heldExport";
import { exportLimitRequestSchema } from "@/core/simulation/exportLimitSchema";

/** Inverters of 5 kW each that hold 3 kW, with a fail-safe of 30 s to 0 W. */
function limiter(count = 1): BenchLimiter {
  const request = exportLimitRequestSchema.parse({
    system: "single-phase",
    durationS: 1,
    limit: { powerW: 3000 },
    inverters: Array.from({ length: count }, (_, at) => ({
      id: `sun-${at}`,
      ratedW: 5000,
      availableW: 5000,
      phases: ["L1"],
      rampWPerS: 2500,
      lostMeter: { afterMs: 30_000, fallbackW: 0 },
    })),
    meter: { samplePeriodMs: 200, delayMs: 200 },
    controller: { kind: "integral", gainPerS: 0.5, setPointW: 2900, deadBandW: 20, periodMs: 500 },
  });
  return { ...request, device: "hub", gridMeter: "m1" };
}

const house = (houseW: number) => (madeW: readonly number[]) => [houseW - madeW.reduce((sum, own) => sum + own, 0)];
const moment = { lastsMs: 250, availableW: [5000], isHeard: true };

function after(seconds: number, held: HeldExport, more: Partial<Parameters<HeldExport["step"]>[0]> = {}) {
  let madeW: readonly number[] = [];
  for (let at = 0; at < 4 * seconds; at++) madeW = held.step({ ...moment, shownW: house(500), ...more });
  return madeW;
}

describe("the export limit of a bench", () => {
  it("lets out what is set, and what the house takes beside it", () => {
    expect(after(60, new HeldExport(limiter()))[0]).toBeCloseTo(3400, -2);
    expect(after(60, new HeldExport(limiter()), { availableW: [2000] })[0]).toBeCloseTo(2000, 0);
    expect(after(60, new HeldExport(limiter()), { limitW: 1000 })[0]).toBeCloseTo(1400, -2);
  });

  it("falls back when its meter is silent for as long as was set, and comes back with it", () => {
    const held = new HeldExport(limiter());
    after(30, held);
    expect(after(28, held, { isHeard: false })[0]).toBeGreaterThan(3000);
    expect(after(10, held, { isHeard: false })[0]).toBeCloseTo(0, 0);
    expect(after(30, held)[0]).toBeCloseTo(3400, -2);
  });

  it("sees what a CT the wrong way round shows: an export that looks like import is never held", () => {
    const reversed = (madeW: readonly number[]) => house(500)(madeW).map((watts) => -watts);
    expect(after(60, new HeldExport(limiter()), { shownW: reversed })[0]).toBeCloseTo(5000, -1);
  });

  it("comes to the same however coarse its time goes on", () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 4000 }), fc.integer({ min: 1, max: 3 }), (houseW, count) => {
        const fine = new HeldExport(limiter(count));
        const coarse = new HeldExport(limiter(count));
        const how = { availableW: Array.from({ length: count }, () => 5000), shownW: house(houseW), isHeard: true };
        for (let at = 0; at < 120; at++) fine.step({ ...how, lastsMs: 500 });
        const sum = (watts: readonly number[]) => watts.reduce((all, own) => all + own, 0);
        expect(sum(coarse.step({ ...how, lastsMs: 60_000 }))).toBeCloseTo(sum(fine.step({ ...how, lastsMs: 0 })), -1);
      }),
      { numRuns: 25 },
    );
  });
});
