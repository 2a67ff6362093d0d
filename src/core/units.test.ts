import fc from "fast-check";
import { expect, it } from "vitest";
import { fixedText, powerText, typedPower } from "@/core/units";

it.each([
  [0, "0 W"],
  [-0.2, "0 W"],
  [-860, "−860 W"],
  [999.4, "999 W"],
  [999.6, "1.00 kW"],
  [1240, "1.24 kW"],
  [-1240, "−1.24 kW"],
  [152_340, "152.3 kW"],
])("shows %f W as %s", (powerW, text) => expect(powerText(powerW)).toBe(text));

it.each([
  [-0.124, 2, "amount", "−0.12"],
  [1, 1, "difference", "+1.0"],
  [1, 1, "amount", "1.0"],
  [-0.004, 2, "difference", "0.00"],
  [0, 0, "difference", "0"],
] as const)("shows %f with %i decimals as %s: %s", (value, decimals, as, text) =>
  expect(fixedText(value, decimals, as)).toBe(text),
);

it.each([
  ["1240", 1240],
  ["1.24 kW", 1240],
  ["1,24k", 1240],
  ["−860", -860],
  ["-0,86 kW", -860],
  ["+5 w", 5],
  [".5kw", 500],
])("reads %s as %f W", (text, powerW) => expect(typedPower(text)).toEqual({ kind: "power", powerW }));

it.each(["abc", "1.2.3", "12 A", "1e9", "--5", "NaN", "9999999999"])("refuses %s with what to type", (text) => {
  expect(typedPower(text)).toMatchObject({ kind: "unreadable" });
});

it("takes an empty field for nothing typed", () => expect(typedPower("  ")).toEqual({ kind: "nothing" }));

it("reads back any whole number of watts", () => {
  fc.assert(
    fc.property(fc.integer({ min: -1e8, max: 1e8 }), (powerW) => {
      expect(typedPower(String(powerW))).toEqual({ kind: "power", powerW });
    }),
  );
});
