import fc from "fast-check";
import { expect, it } from "vitest";
import { fewerBars } from "@/core/simulation/fewerBars";

it("makes fewer bars with the same under them, none wider than needed, each where its first value was", () => {
  fc.assert(
    fc.property(
      fc.array(fc.double({ min: -1e5, max: 1e5, noNaN: true }), { minLength: 1, maxLength: 400 }),
      fc.integer({ min: 1, max: 300 }),
      (values, most) => {
        const at = values.map((_, index) => index / 4);
        const fewer = fewerBars(at, [values], most);
        const width = Math.ceil(values.length / most);
        expect(fewer.at.length).toBeLessThanOrEqual(most);
        expect(fewer.at).toEqual(at.filter((_, index) => index % width === 0));
        const under = fewer.lines[0]!.reduce(
          (sum, value, bar) => sum + value * Math.min(width, values.length - bar * width),
          0,
        );
        expect(under).toBeCloseTo(
          values.reduce((sum, value) => sum + value, 0),
          3,
        );
      },
    ),
  );
});

it("leaves what is short enough as it is", () => {
  const at = [0, 1, 2];
  const lines = [[5, 6, 7]];
  expect(fewerBars(at, lines, 3)).toEqual({ at, lines });
});
