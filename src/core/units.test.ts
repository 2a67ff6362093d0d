import fc from "fast-check";
import { expect, it } from "vitest";
import { fixedText, powerMeantAs, powerText, shortTimeText, typedPower } from "@/core/units";

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
  ["2,47 kW", 2470],
  ["1.240 kW", 1240],
  ["5,000", 5000],
  ["5,000 W", 5000],
  ["1 240 W", 1240],
])("reads %s as %f W", (text, powerW) => expect(typedPower(text, "point")).toEqual({ kind: "power", powerW }));

it.each(["abc", "1.2.3", "12 A", "1e9", "--5", "NaN", "9999999999"])("refuses %s with what to type", (text) => {
  expect(typedPower(text, "point")).toMatchObject({ kind: "unreadable" });
});

it("asks for what a reading means where its comma could be either", () => {
  expect(typedPower("1,240 kW", "comma")).toEqual({
    kind: "unreadable",
    message: "1,240 can be read in two ways: type 1,24 or 1240 kW",
  });
  expect(typedPower("1,240 kW", "point")).toEqual({
    kind: "unreadable",
    message: "1,240 kW can be read in two ways: type it in watts",
  });
  expect(typedPower("kW", "point")).toMatchObject({ kind: "unreadable" });
});

it("takes an empty field for nothing typed", () => expect(typedPower("  ", "comma")).toEqual({ kind: "nothing" }));

it("reads back any whole number of watts", () => {
  fc.assert(
    fc.property(fc.integer({ min: -1e8, max: 1e8 }), (powerW) => {
      expect(typedPower(String(powerW), "comma")).toEqual({ kind: "power", powerW });
    }),
  );
});

it.each([
  ["2.47", 2.47, 2470],
  ["-0.9", -0.9, -900],
  ["2.47 W", 2.47, undefined],
  ["2470", 2470, undefined],
  ["86", 86, undefined],
  ["2470 kW", 2_470_000, 2470],
  ["5000000 kW", 5e9, undefined],
])("asks whether %s is a thousand times off", (text, powerW, meant) => {
  expect(powerMeantAs(text, powerW, 20_000)).toBe(meant);
});

it("says a short time in seconds or minutes", () => {
  expect([40, 119, 120, 301].map(shortTimeText)).toEqual(["40 s", "119 s", "2 min", "5 min"]);
});
