import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { exportLimit, exportLimitInSlices, safeSetPointW } from "@/core/simulation/exportLimit";
import { loopEdge } from "@/core/simulation/feedIn/loopEdge";
import { judgeExport, traceOf } from "@/core/simulation/judgeExport";
import { plainEdge } from "../../../tests/reference/plainLoop";
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

describe("the largest gain", () => {
  const steady = limitRequestOf();
  const anyLoop = fc
    .record({
      samplePeriodMs: fc.constantFrom(100, 200, 1000),
      delayMs: fc.constantFrom(0, 100, 350, 1200),
      periodMs: fc.constantFrom(200, 500, 1000),
      deadTimeMs: fc.constantFrom(0, 100, 200, 600),
      tauMs: fc.constantFrom(100, 400, 1500),
      errorPct: fc.constantFrom(-5, 0, 5),
    })
    .map(({ samplePeriodMs, delayMs, errorPct, periodMs, deadTimeMs, tauMs }) =>
      limitRequestOf({
        meter: { samplePeriodMs, delayMs, errorPct },
        controller: { ...steady.controller, periodMs },
        inverters: [
          { ...steady.inverters[0], id: "a", deadTimeMs, tauMs },
          { ...steady.inverters[0], id: "b", ratedW: 4000, deadTimeMs: 200, tauMs: 400 },
        ],
      }),
    );

  it("lies below the edge of the linear loop, which a plain loop in time finds too", () => {
    fc.assert(
      fc.property(anyLoop, (request) => {
        const { gainPerS } = loopEdge(request);
        expect(Math.abs(gainPerS / plainEdge(request) - 1)).toBeLessThan(0.03);
      }),
      { numRuns: 12 },
    );
  });

  it("is told as well at no export, on each phase and under a low sun: between 0.7 of the edge and the edge", () => {
    const easy = { ...steady, inverters: steady.inverters.map((inverter) => ({ ...inverter, rampWPerS: 1e9 })) };
    for (const limitW of [0, 5000])
      for (const basis of ["sum", "per-phase"] as const)
        for (const availableW of [300, 9500]) {
          const request = {
            ...easy,
            limit: { ...easy.limit, powerW: limitW, basis },
            controller: { ...easy.controller, setPointW: 0 },
            inverters: easy.inverters.map((inverter) => ({ ...inverter, availableW })),
          };
          const share = exportLimit(request).maxStableGainPerS / loopEdge(request).gainPerS;
          expect(share).toBeGreaterThan(0.7);
          expect(share).toBeLessThan(1);
        }
  });

  it("is less where one phase has more of the inverters than another and each phase is limited", () => {
    const onL1 = { ...steady.inverters[0]!, id: "b", phases: ["L1" as const] };
    const perPhase = { ...steady.limit, basis: "per-phase" as const };
    const even = loopEdge({ ...steady, limit: perPhase });
    const uneven = loopEdge({ ...steady, limit: perPhase, inverters: [...steady.inverters, onL1] });
    expect(uneven.phase).toBe("L1");
    // Half of what is allowed goes to L1 whole, the other half by a third of it: twice as much as an even one.
    expect(even.gainPerS / uneven.gainPerS).toBeCloseTo(2, 6);
  });

  it("is less where a battery acts on the same grid", () => {
    const battery = { phases: ["L1", "L2", "L3"], gainPerS: 0.3, setPointW: 0, powerW: 3000 };
    expect(loopEdge(limitRequestOf({ battery })).gainPerS).toBeLessThan(loopEdge(steady).gainPerS);
  });
});

it("keeps periods that are no multiple of the step as they are", () => {
  // A controller that answers by a fixed share at each turn: how often it turned is told by where the export is.
  const at = (periodMs: number, stepMs: number) => {
    const request = limitRequestOf({
      stepMs,
      durationS: 20,
      inverters: [{ ...limitRequestOf().inverters[0]!, deadTimeMs: 0, tauMs: 0, rampWPerS: 1e9, availableW: 10_000 }],
      meter: { samplePeriodMs: 10, delayMs: 0, errorPct: 0 },
      controller: { kind: "integral", gainPerS: 0.2, setPointW: 5000, deadBandW: 0, periodMs },
      loads: [
        { atS: 0, phase: "L1", powerW: 3000 },
        { atS: 5, phase: "L1", powerW: 0 },
      ],
    });
    const { gridW, steps } = simulateExport(request);
    return -gridW[steps - 1]! - 5000;
  };
  for (const periodMs of [250, 330, 70]) {
    expect(Math.abs(at(periodMs, 20) - at(periodMs, 10))).toBeLessThan(1e-6 + 0.2 * Math.abs(at(periodMs, 10)));
    const turns = Math.ceil(20_000 / periodMs) - 1 - Math.floor(5000 / periodMs);
    expect(at(periodMs, 10)).toBeCloseTo(3000 * (1 - (0.2 * periodMs) / 1000) ** turns, 0);
  }
});
