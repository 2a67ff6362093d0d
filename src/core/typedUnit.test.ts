import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { typedNumber } from "@/core/typedNumber";
import { typedUnit } from "@/core/typedUnit";

const WIDE = { least: -1e12, most: 1e12, whole: false, optional: true };

describe("a number with its unit", () => {
  it.each([
    ["0,26 V", "mV", 260],
    ["260mV", "V", 0.26],
    ["2,47 kW", "W", 2470],
    ["2470 w", "kW", 2.47],
    ["1,5 kohm", "Ω", 1500],
    ["60", "Ω", 60],
    ["60 Ω", "Ω", 60],
    ["90 min", "h", 1.5],
    ["250 cm", "m", 2.5],
    ["3 m", "ft", 9.8425],
    ["4,4 lb·in", "N·m", 0.497],
    ["2 Nm", "N·m", 2],
    ["0,5 in", "mm", 12.7],
    ["10 %", "%", 10],
    ["−3,5 °C", "°C", -3.5],
    ["1 200 W", "W", 1200],
  ])("%s in a field of %s is %d", (text, unit, value) => {
    const read = typedNumber(text, WIDE, "comma", unit);
    expect(read.kind === "number" && read.value).toBeCloseTo(value, 3);
  });

  it.each([
    ["12 A", "V", "type it in V, not in A"],
    ["12 V", undefined, "a number from -1000000000000 to 1000000000000"],
    ["5 MA", "A", "type it in A, not in MA"],
  ])("%s in a field of %s is refused", (text, unit, message) => {
    expect(typedNumber(text, WIDE, "point", unit)).toEqual({ kind: "unreadable", message });
  });

  it("is the same whichever unit of its quantity it is typed in", () => {
    const pairs = fc.constantFrom(
      ["kW", "W", 1e3],
      ["V", "mV", 1e3],
      ["kWh", "Wh", 1e3],
      ["min", "s", 60],
      ["km", "m", 1e3],
    );
    fc.assert(
      fc.property(pairs, fc.integer({ min: 1, max: 99_999 }), ([large, small, scale], count) => {
        const there = typedNumber(`${count} ${String(large)}`, WIDE, "point", String(small));
        expect(there).toEqual({ kind: "number", value: count * Number(scale) });
        const back = typedNumber(`${count * Number(scale)} ${String(small)}`, WIDE, "point", String(large));
        expect(back).toEqual({ kind: "number", value: count });
      }),
    );
  });

  it("is held to the limits of the field in the field's unit", () => {
    expect(typedUnit("5 kW", "W")).toEqual({ kind: "number", digits: "5", factor: 1000 });
    expect(typedNumber("5 kW", { ...WIDE, most: 4000 }, "point", "W")).toMatchObject({ kind: "unreadable" });
    expect(typedNumber("0.5 s", { ...WIDE, whole: true }, "point", "ms")).toEqual({ kind: "number", value: 500 });
  });
});
