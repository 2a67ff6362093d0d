import { describe, expect, it } from "vitest";
import { typedNumber, type NumberLimits } from "@/core/typedNumber";

const LIMITS: NumberLimits = { least: 0, most: 100, whole: false, optional: false };

describe("typedNumber", () => {
  it.each<readonly [string, Partial<NumberLimits>, number]>([
    ["2,5", {}, 2.5],
    ["2.5", {}, 2.5],
    [" 7 ", {}, 7],
    ["0", { optional: true }, 0],
    ["0", { whole: true }, 0],
    ["−3", { least: -5 }, -3],
    ["–3,5", { least: -5 }, -3.5],
    ["100", {}, 100],
    ["1,000", { most: 5000 }, 1000],
  ])("reads %s with %o as %d", (text, limits, value) => {
    expect(typedNumber(text, { ...LIMITS, ...limits }, "point")).toEqual({ kind: "number", value });
  });

  it.each<readonly [string, Partial<NumberLimits>, string]>([
    ["", {}, "type a number"],
    ["ten", {}, "a number from above 0 to 100"],
    ["0", {}, "a number from above 0 to 100"],
    ["101", { optional: true }, "a number from 0 to 100"],
    ["2.5", { whole: true, least: 1 }, "a whole number from 1 to 100"],
    ["-1", {}, "a number from above 0 to 100"],
    ["Infinity", {}, "a number from above 0 to 100"],
    ["1,2,3", {}, "a number from above 0 to 100"],
    ["1e2", {}, "a number from above 0 to 100"],
  ])("refuses %s with %o and says what it takes", (text, limits, message) => {
    expect(typedNumber(text, { ...LIMITS, ...limits }, "point")).toEqual({ kind: "unreadable", message });
  });

  it("asks which number is meant where it could be two", () => {
    expect(typedNumber("5,000", { ...LIMITS, most: 10_000 }, "comma")).toEqual({
      kind: "unreadable",
      message: "5,000 can be read in two ways: type 5,0 or 5000",
    });
  });

  it("takes an empty field for nothing where it may be", () => {
    expect(typedNumber("  ", { ...LIMITS, optional: true }, "comma")).toEqual({ kind: "nothing" });
  });
});
