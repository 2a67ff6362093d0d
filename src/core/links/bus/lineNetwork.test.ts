import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { idleLevels, resistancesAt, type Line, type LinePoint } from "@/core/links/bus/lineNetwork";

const LEAK_OHM = 1e9;
const LEAST_OHM = 0.001;

const anyPoint: fc.Arbitrary<LinePoint> = fc.record({
  acrossOhm: fc.constantFrom(120, 12_000, 48_000, 120 / 2),
  bias: fc.option(fc.record({ upOhm: fc.constantFrom(390, 560, 1000), downOhm: fc.constantFrom(390, 560, 1000) }), {
    nil: undefined,
  }),
});
const anyLine: fc.Arbitrary<Line> = fc.array(anyPoint, { minLength: 2, maxLength: 6 }).chain((points) =>
  fc
    .array(fc.record({ ohm: fc.constantFrom(0, 0.8, 8.4, 84), isOpen: fc.boolean(), isExchanged: fc.boolean() }), {
      minLength: points.length - 1,
      maxLength: points.length - 1,
    })
    .map((segments) => ({ points, segments })),
);

/** Kirchhoff's current law at every core, written out and solved by elimination with pivots: slow and plain. */
function plainLevels({ points, segments }: Line, vccV: number): readonly number[] {
  const size = 2 * points.length;
  const rows = Array.from({ length: size }, () => new Array<number>(size + 1).fill(0));
  const join = (a: number, b: number, ohm: number) => {
    rows[a]![a]! += 1 / ohm;
    rows[b]![b]! += 1 / ohm;
    rows[a]![b]! -= 1 / ohm;
    rows[b]![a]! -= 1 / ohm;
  };
  points.forEach(({ acrossOhm, bias }, at) => {
    for (const core of [2 * at, 2 * at + 1]) rows[core]![core]! += 1 / LEAK_OHM;
    join(2 * at, 2 * at + 1, acrossOhm);
    if (!bias) return;
    rows[2 * at]![2 * at]! += 1 / bias.upOhm;
    rows[2 * at]![size]! += vccV / bias.upOhm;
    rows[2 * at + 1]![2 * at + 1]! += 1 / bias.downOhm;
  });
  segments.forEach(({ ohm, isOpen, isExchanged }, before) => {
    const [plus, minus] = isExchanged ? [2 * before + 3, 2 * before + 2] : [2 * before + 2, 2 * before + 3];
    const own = Math.max(LEAST_OHM, ohm);
    if (!isOpen) join(2 * before, plus, own);
    join(2 * before + 1, minus, own);
  });
  return eliminated(rows);
}

function eliminated(rows: number[][]): readonly number[] {
  const size = rows.length;
  for (let at = 0; at < size; at++) {
    const pivot = rows.findIndex(
      (row, which) => which >= at && rows.slice(at).every((other) => Math.abs(other[at]!) <= Math.abs(row[at]!)),
    );
    [rows[at], rows[pivot]] = [rows[pivot]!, rows[at]!];
    for (const [which, row] of rows.entries()) {
      const share = which === at ? 0 : row[at]! / rows[at]![at]!;
      if (share !== 0) for (let k = at; k <= size; k++) row[k]! -= share * rows[at]![k]!;
    }
  }
  return rows.map((row, at) => row[size]! / row[at]!);
}

const terminated = (count: number): Line => ({
  points: Array.from({ length: count }, (_, at) => ({
    acrossOhm: at === 0 || at === count - 1 ? 120 : 12_000,
    bias: at === 0 ? { upOhm: 560, downOhm: 560 } : undefined,
  })),
  segments: Array.from({ length: count - 1 }, () => ({ ohm: 0.8 })),
});

describe("A line of two cores as a network of resistors", () => {
  it("stands at the levels that Kirchhoff's law gives when it is written out and solved plainly", () => {
    fc.assert(
      fc.property(anyLine, fc.constantFrom(3.3, 5), (line, vccV) => {
        const plain = plainLevels(line, vccV);
        idleLevels(line, vccV).forEach(({ plusV, minusV }, at) => {
          expect(plusV).toBeCloseTo(plain[2 * at]!, 4);
          expect(minusV).toBeCloseTo(plain[2 * at + 1]!, 4);
        });
      }),
    );
  });

  it("never stands outside its supply, and is at rest where nothing biases it", () => {
    fc.assert(
      fc.property(anyLine, (line) => {
        const levels = idleLevels(line, 5).flatMap(({ plusV, minusV }) => [plusV, minusV]);
        for (const volts of levels) expect(volts > -1e-6 && volts < 5 + 1e-6).toBe(true);
        if (line.points.every(({ bias }) => !bias))
          for (const volts of levels) expect(Math.abs(volts)).toBeLessThan(1e-9);
      }),
    );
  });

  it("keeps 352 mV at the near end and 146 mV at the far one over 1 km of 84 Ω", () => {
    const line: Line = {
      points: [
        { acrossOhm: 120, bias: { upOhm: 560, downOhm: 560 } },
        { acrossOhm: 120, bias: undefined },
      ],
      segments: [{ ohm: 84 }],
    };
    const [near, far] = idleLevels(line, 5).map(({ plusV, minusV }) => 1000 * (plusV - minusV));
    expect(near).toBeCloseTo(352, 0);
    expect(far).toBeCloseTo(146.5, 0);
  });

  it("measures about 60 Ω with both terminators on and 120 Ω with one, from either end", () => {
    const both = terminated(5);
    for (const at of [0, 4]) expect(resistancesAt(both, [at], "open")[0]).toBeCloseTo(60, -1);
    const one = {
      ...both,
      points: both.points.map((point, at) => (at === 4 ? { ...point, acrossOhm: 12_000 } : point)),
    };
    expect(resistancesAt(one, [0], "open")[0]!).toBeGreaterThan(110);
  });

  it("measures next to nothing where the cores touch, and the more the farther the meter is from there", () => {
    const line = { ...terminated(5), shorts: [2] };
    const [near, , at, , far] = resistancesAt(line, [0, 1, 2, 3, 4], "open");
    expect(at).toBeLessThan(0.02);
    expect(near!).toBeGreaterThan(at!);
    expect(far!).toBeCloseTo(near!, 1);
    const between = { ...terminated(5), shorts: [2.5] };
    const [left, right] = resistancesAt(between, [2, 3], "open");
    expect(left).toBeCloseTo(right!, 2);
  });

  it("measures less with the bias resistors on ground than with them open, never more", () => {
    fc.assert(
      fc.property(anyLine, (line) => {
        const where = [...line.points.keys()];
        const grounded = resistancesAt(line, where, "grounded");
        resistancesAt(line, where, "open").forEach((open, at) =>
          expect(grounded[at]!).toBeLessThanOrEqual(open + 1e-6),
        );
      }),
    );
  });

  it("has plus and minus exchanged behind a crossing, and right again behind the next", () => {
    const line = terminated(4);
    const crossed = { ...line, segments: line.segments.map((own, at) => ({ ...own, isExchanged: at !== 1 })) };
    const signs = idleLevels(crossed, 5).map(({ plusV, minusV }) => Math.sign(plusV - minusV));
    expect(signs).toEqual([1, -1, -1, 1]);
  });
});
