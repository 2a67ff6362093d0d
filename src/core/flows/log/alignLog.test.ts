import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { alignLog, medianStep } from "@/core/flows/log/alignLog";
import type { ReadingLog } from "@/core/flows/log/logSchema";
import { seededNormal } from "@/core/random";

const STEP_S = 300;
const ROWS = 120;
const times = Array.from({ length: ROWS }, (_, row) => row * STEP_S);

/** A day of sun under clouds: what is known, and what a meter right at it would show. */
function sunW(seed: number): number[] {
  const normal = seededNormal(seed);
  return times.map((_, row) => -4000 * Math.sin((Math.PI * row) / ROWS) * (0.75 + 0.2 * normal()));
}

/** The series as a meter shows it that is some seconds late. */
function lateBy(values: readonly number[], seconds: number): (number | null)[] {
  return times.map((time) => {
    const at = (time - seconds) / STEP_S;
    const [before, share] = [Math.floor(at), at - Math.floor(at)];
    const [a, b] = [values[before], share === 0 ? values[before] : values[before + 1]];
    return a === undefined || b === undefined ? null : a + share * (b - a);
  });
}

function logOf(readings: ReadingLog["readings"], known: readonly (number | null)[]): ReadingLog {
  return {
    times,
    readings,
    known: [{ node: "pv", powerW: [...known], tolerancePct: 3, toleranceW: 20 }],
    noise: { absoluteW: 8, relative: 0.01 },
    maxFaults: 1,
  };
}

const one = (powerW: (number | null)[], meter = "m1") => ({ meter, input: 1, powerW });

describe("Readings moved to the times of what is known", () => {
  it("stay where they are when they come in time, however they are signed and scaled", () => {
    fc.assert(
      fc.property(fc.nat(1000), fc.constantFrom(-2, -1, 1, 3), (seed, factor) => {
        const sun = sunW(seed);
        const readings = [one(sun.map((watts) => factor * watts))];
        expect(alignLog(logOf(readings, sun))).toEqual({ readings, lags: [] });
      }),
      { numRuns: 30 },
    );
  });

  it("are moved back by what they are late, or on by what they are early, with the lag told", () => {
    fc.assert(
      fc.property(fc.nat(1000), fc.integer({ min: -7, max: 7 }), fc.boolean(), (seed, rows, isReversed) => {
        fc.pre(rows !== 0);
        const sun = sunW(seed);
        const late = lateBy(sun, rows * STEP_S).map((watts) => (watts === null || !isReversed ? watts : -watts));
        const { readings, lags } = alignLog(logOf([one(late)], sun));
        expect(lags.map(({ meter }) => meter)).toEqual(["m1"]);
        expect(Math.abs(lags[0]!.seconds - rows * STEP_S)).toBeLessThan(STEP_S / 2);
        // What is there after the move goes along with what is known.
        readings[0]!.powerW.forEach((watts, row) => {
          if (watts !== null)
            expect(Math.sign(watts * sun[row]!) === (isReversed ? -1 : 1) || sun[row]! > -50).toBe(true);
        });
      }),
      { numRuns: 40 },
    );
  });

  it("are found between two rows too, also where clouds change from row to row", () => {
    fc.assert(
      fc.property(fc.nat(1000), fc.integer({ min: -13, max: 13 }), (seed, halves) => {
        fc.pre(halves !== 0);
        const sun = sunW(seed);
        const { lags } = alignLog(logOf([one(lateBy(sun, (halves / 2) * STEP_S))], sun));
        expect(Math.abs(lags[0]!.seconds - (halves / 2) * STEP_S)).toBeLessThan(STEP_S / 8);
      }),
      { numRuns: 60 },
    );
  });

  it("are moved meter by meter: one that is in time does not follow one that is late", () => {
    const sun = sunW(3);
    const { lags, readings } = alignLog(logOf([one(lateBy(sun, 3 * STEP_S)), one(sun, "m2")], sun));
    expect(lags.map(({ meter }) => meter)).toEqual(["m1"]);
    expect(readings[1]!.powerW).toEqual(sun);
  });

  it("are moved with all inputs of their meter, also one that tells nothing of its time", () => {
    const sun = sunW(5);
    const flat = times.map(() => 40);
    const late = lateBy(sun, 4 * STEP_S);
    const { readings } = alignLog(logOf([one(late), { meter: "m1", input: 2, powerW: flat }], sun));
    expect(readings[1]!.powerW.filter((watts) => watts === null)).toHaveLength(4);
  });

  it("stay where they are when nothing that is known changes, or they follow none of it", () => {
    const normal = seededNormal(11);
    const noise = times.map(() => 500 + 100 * normal());
    const still = times.map(() => -1500);
    expect(alignLog(logOf([one(noise)], still)).lags).toEqual([]);
    expect(alignLog(logOf([one(still)], sunW(2))).lags).toEqual([]);
    expect(alignLog(logOf([one(times.map(() => null))], sunW(2))).lags).toEqual([]);
  });

  it("keep a gap as a gap: nothing is made up beside it", () => {
    const sun = sunW(9);
    const late = lateBy(sun, 2 * STEP_S).map((watts, row) => (row >= 50 && row < 55 ? null : watts));
    const { readings } = alignLog(logOf([one(late)], sun));
    for (let row = 48; row < 53; row++) expect(readings[0]!.powerW[row]).toBeNull();
  });
});

describe("The usual time between two rows", () => {
  it("is the one in the middle: a night without rows does not count", () => {
    expect(medianStep([0, 60, 120, 43_200, 43_260])).toBe(60);
    expect(medianStep([5])).toBe(1);
  });
});
