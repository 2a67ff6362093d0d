import { expect, it } from "vitest";
import { chiSquareSurvival } from "@/core/flows/chiSquare";

// Critical values from published chi-square tables.
it.each([
  [3.841459, 1, 0.05],
  [10.827566, 1, 0.001],
  [18.307038, 10, 0.05],
  [29.588298, 10, 0.001],
  [124.342113, 100, 0.05],
  [0.000157088, 1, 0.99],
])("gives the tail beyond %f with %i degrees of freedom as %f", (value, degrees, tail) => {
  expect(chiSquareSurvival(value, degrees)).toBeCloseTo(tail, 5);
});

it("is certain at zero, and without degrees of freedom", () => {
  expect(chiSquareSurvival(0, 4)).toBe(1);
  expect(chiSquareSurvival(9, 0)).toBe(1);
  expect(chiSquareSurvival(Infinity, 3)).toBe(0);
});
