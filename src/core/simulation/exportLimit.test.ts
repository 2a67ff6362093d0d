import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { exportLimit, exportLimitInSlices, judgeExport, safeSetPointW, traceOf } from "@/core/simulation/exportLimit";
import { exportLimitRequestSchema } from "@/core/simulation/exportLimitSchema";
import { simulateExport } from "@/core/simulation/feedIn/simulateExport";
import { limitRequestOf } from "../../../tests/fixtures/limitRequest";

const LIMIT = { powerW: 5000, secondsAllowed: 2 };
const DEAD_BAND_W = 50;

const anyTrace = fc
  .array(fc.record({ dt: fc.constantFrom(0.1, 0.5, 1), watts: fc.integer({ min: -2000, max: 9000 }) }), {
    maxLength: 120,
  })
  .map((points) => {
    let tS = 0;
    return { tS: points.map(({ dt }) => (tS += dt)), exportW: points.map(({ watts }) => watts) };
  });

/** The same judgement, said plainly over whole lists. */
function plainJudgement({ tS, exportW }: { tS: readonly number[]; exportW: readonly number[] }, quietFromS: number) {
  const endS = tS.at(-1) ?? 0;
  const lasts = tS.map((t, at) => (at + 1 < tS.length ? tS[at + 1]! - t : at > 0 ? t - tS[at - 1]! : 0));
  const over = exportW.map((watts) => watts > LIMIT.powerW + 1);
  const from = endS - 0.4 * (endS - Math.min(quietFromS, endS));
  const tail = exportW.filter((_, at) => tS[at]! >= from);
  return {
    maxExportW: exportW.length === 0 ? 0 : Math.max(...exportW),
    secondsOver: lasts.reduce((sum, dt, at) => sum + (over[at] ? dt : 0), 0),
    settledExportW: tail.reduce((sum, watts) => sum + watts, 0) / Math.max(1, tail.length),
  };
}

it("judges a trace as the plain sums over its lists do", () => {
  fc.assert(
    fc.property(anyTrace, fc.double({ min: 0, max: 60, noNaN: true }), (trace, quietFromS) => {
      const judged = judgeExport(trace, LIMIT, DEAD_BAND_W, quietFromS);
      expect(judged).toMatchObject(plainJudgement(trace, quietFromS));
      expect(judged.longestOverS).toBeLessThanOrEqual(judged.secondsOver + 1e-9);
      if (judged.verdict === "holds") expect(judged.longestOverS).toBeLessThanOrEqual(LIMIT.secondsAllowed);
    }),
  );
});

it("looks at the sum of the phases, or at the worst of them", () => {
  const request = exportLimitRequestSchema.parse({
    system: "three-phase",
    limit: { powerW: 5000 },
    durationS: 5,
    inverters: [{ id: "roof", ratedW: 6000, availableW: 6000, phases: ["L1"] }],
    meter: { samplePeriodMs: 200, delayMs: 200 },
    controller: { kind: "integral", gainPerS: 0.5, setPointW: 9000, periodMs: 500 },
    loads: [{ atS: 0, phase: "L2", powerW: 2000 }],
  });
  const run = simulateExport(request);
  expect(traceOf(run, "sum").exportW[run.steps - 1]).toBeCloseTo(4000, 6);
  expect(traceOf(run, "per-phase").exportW[run.steps - 1]).toBeCloseTo(6000, 6);
  expect(traceOf(run, "sum").tS[10]).toBe(10 * run.stepS);
});

it("can be left between any two slices, of which a long request has many", () => {
  const work = exportLimitInSlices(limitRequestOf({ stepMs: 1, durationS: 300 }));
  let slices = 0;
  while (!work.next().done) slices++;
  expect(slices).toBeGreaterThan(25);
});

describe("the recommended set-point", () => {
  it("keeps the true export within the limit, whatever the meter hides, at any gain that does not hunt", () => {
    fc.assert(
      fc.property(
        fc.record({
          errorPct: fc.double({ min: -10, max: 10, noNaN: true }),
          gainPerS: fc.double({ min: 0.2, max: 0.6, noNaN: true }),
          deadBandW: fc.integer({ min: 0, max: 150 }),
          limitW: fc.integer({ min: 500, max: 7000 }),
        }),
        ({ errorPct, gainPerS, deadBandW, limitW }) => {
          const request = limitRequestOf({
            limit: { powerW: limitW, basis: "sum", secondsAllowed: 5 },
            durationS: 120,
            meter: { samplePeriodMs: 200, delayMs: 350, errorPct },
            controller: {
              kind: "integral",
              gainPerS,
              setPointW: safeSetPointW(limitW, errorPct, deadBandW),
              deadBandW,
              periodMs: 500,
            },
          });
          expect(exportLimit(request).settledExportW).toBeLessThanOrEqual(limitW + 1);
        },
      ),
      { numRuns: 25 },
    );
  });
});
