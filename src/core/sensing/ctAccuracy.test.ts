import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { classRange, ctErrorAt, displacementEffectPct, powerErrorPct } from "@/core/sensing/ctAccuracy";
import { errorAt, errorCurve } from "@/core/sensing/errorCurve";
import { ctClassSchema, type CtClass } from "@/core/site/planSchema";

/** IEC 61869-2 once more, as the table is printed: class, % of primary, ratio error %, displacement minutes. */
const TABLE: readonly (readonly [CtClass, number, number, number | undefined])[] = [
  ["0.2", 5, 0.75, 30],
  ["0.2", 20, 0.35, 15],
  ["0.2", 100, 0.2, 10],
  ["0.2", 120, 0.2, 10],
  ["0.5", 5, 1.5, 90],
  ["0.5", 20, 0.75, 45],
  ["0.5", 100, 0.5, 30],
  ["0.5", 120, 0.5, 30],
  ["1", 5, 3, 180],
  ["1", 20, 1.5, 90],
  ["1", 100, 1, 60],
  ["1", 120, 1, 60],
  ["0.2S", 1, 0.75, 30],
  ["0.2S", 5, 0.35, 15],
  ["0.2S", 20, 0.2, 10],
  ["0.2S", 100, 0.2, 10],
  ["0.2S", 120, 0.2, 10],
  ["0.5S", 1, 1.5, 90],
  ["0.5S", 5, 0.75, 45],
  ["0.5S", 20, 0.5, 30],
  ["0.5S", 100, 0.5, 30],
  ["0.5S", 120, 0.5, 30],
  ["3", 50, 3, undefined],
  ["3", 120, 3, undefined],
];

describe("ctErrorAt", () => {
  it.each(TABLE)(
    "class %s at %d %% is what the standard prints",
    (ctClass, currentPct, ratioErrorPct, displacementMin) => {
      expect(ctErrorAt(ctClass, currentPct)).toEqual({ kind: "promised", ratioErrorPct, displacementMin });
    },
  );

  it.each([
    ["1", 12.5, 2.25, 135],
    ["0.5", 60, 0.625, 37.5],
    ["0.2S", 3, 0.55, 22.5],
    ["0.5S", 110, 0.5, 30],
  ] as const)(
    "class %s at %d %%, between its points, is on the straight line",
    (ctClass, currentPct, ratioErrorPct, displacementMin) => {
      const error = ctErrorAt(ctClass, currentPct);
      expect(error).toMatchObject({ kind: "promised" });
      if (error.kind !== "promised") return;
      expect(error.ratioErrorPct).toBeCloseTo(ratioErrorPct, 12);
      expect(error.displacementMin).toBeCloseTo(displacementMin, 10);
    },
  );

  it("promises nothing below the lowest point and above the highest, in any class", () => {
    for (const ctClass of ctClassSchema.options) {
      const { lowestPct, highestPct } = classRange(ctClass);
      expect(ctErrorAt(ctClass, lowestPct * 0.999).kind).toBe("nothing-promised");
      expect(ctErrorAt(ctClass, highestPct * 1.001).kind).toBe("nothing-promised");
      expect(ctErrorAt(ctClass, 0).kind).toBe("nothing-promised");
    }
  });

  it("never gets worse with more current", () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...ctClassSchema.options),
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (ctClass, a, b) => {
          const { lowestPct, highestPct } = classRange(ctClass);
          const at = (share: number) => ctErrorAt(ctClass, lowestPct + share * (highestPct - lowestPct));
          const [low, high] = [at(Math.min(a, b)), at(Math.max(a, b))];
          if (low.kind !== "promised" || high.kind !== "promised") throw new Error("inside the class");
          expect(high.ratioErrorPct).toBeLessThanOrEqual(low.ratioErrorPct + 1e-12);
        },
      ),
    );
  });
});

describe("the error of a power reading", () => {
  it("takes the examples of its docblocks", () => {
    expect(displacementEffectPct(60, 0.8)).toBeCloseTo(1.3242, 3);
    expect(powerErrorPct({ ctClass: "1", currentPct: 100, meterClassPct: 1, powerFactor: 1 })).toBeCloseTo(2.0152, 3);
    expect(
      errorCurve({ ctClass: "1", primaryA: 100, meterClassPct: 1, powerFactor: 1, voltageV: 230 })[0],
    ).toMatchObject({ currentA: 5 });
  });

  it("is no milder for a lagging displacement than for a leading one, at any power factor", () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.05, max: 1, noNaN: true }),
        fc.double({ min: 0, max: 180, noNaN: true }),
        (powerFactor, minutes) => {
          const leading = Math.abs(displacementEffectPct(-minutes, powerFactor));
          expect(displacementEffectPct(minutes, powerFactor)).toBeGreaterThanOrEqual(leading - 1e-9);
        },
      ),
    );
  });

  it("is undefined where the class promises nothing", () => {
    const question = { ctClass: "1", primaryA: 100, meterClassPct: 1, powerFactor: 1, voltageV: 230 } as const;
    expect(errorAt(question, 4)).toBeUndefined();
    expect(errorAt(question, 20)?.errorW).toBeCloseTo((2.5343 / 100) * 4600, 1);
  });
});
