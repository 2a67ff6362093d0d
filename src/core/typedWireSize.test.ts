import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { NumberStyle } from "@/core/numberStyle";
import { typedWireSize, wireSizeToType } from "@/core/typedWireSize";
import { gaugeMm2, kcmilMm2 } from "@/core/wireSize";

const US: NumberStyle = { decimal: "point", lengths: "us" };
const METRIC: NumberStyle = { decimal: "comma", lengths: "metric" };
const MOST_MM2 = 2000;

describe("a section that is typed", () => {
  it.each([
    ["8", US, 8.37],
    ["#8", US, 8.37],
    ["No. 10 AWG", US, 5.26],
    ["8awg", US, 8.37],
    ["0", US, 53.5],
    ["1/0", US, 53.5],
    ["000", US, 85],
    ["4/0 AWG", US, 107],
    ["250", US, 127],
    ["250 kcmil", US, 127],
    ["500 MCM", US, 253],
    ["10 mm²", US, 10],
    ["2.5mm2", US, 2.5],
    ["16 sq mm", US, 16],
    ["10", METRIC, 10],
    ["2,5", METRIC, 2.5],
    ["2.5 mm^2", METRIC, 2.5],
    ["8 AWG", METRIC, 8.37],
    ["2/0", METRIC, 67.4],
    [" 0 ", METRIC, 0],
  ])("as %j where the style is %o is %s mm²", (text, style, areaMm2) => {
    expect(typedWireSize(text, style, MOST_MM2)).toEqual({ kind: "size", areaMm2 });
  });

  it.each([
    ["95", US, "gauges go from 40 to 4/0"],
    ["2.5", US, "gauges go from 40 to 4/0"],
    ["5/0", US, "type a gauge as 8 or 2/0"],
    ["thick", US, "type a gauge as 8 or 2/0"],
    ["8 A", US, "type a gauge as 8 or 2/0"],
    ["6000 kcmil", US, "it goes up to 1000 kcmil"],
    ["2400", METRIC, "it goes up to 2000 mm²"],
    ["-4", METRIC, "type mm², or a gauge as 8 AWG"],
    ["1,240", METRIC, "1,24"],
  ])("as %j where the style is %o says what to type", (text, style, message) => {
    const read = typedWireSize(text, style, MOST_MM2);
    expect(read).toMatchObject({ kind: "unreadable", message: expect.stringContaining(message) });
  });

  it("may be left empty", () => {
    expect(typedWireSize("  ", US, MOST_MM2)).toEqual({ kind: "nothing" });
  });

  it("stands in its box so that it is read back as what it is", () => {
    const metric = fc.constantFrom(0.25, 0.5, 0.75, 1.5, 2.5, 4, 6, 10, 16, 25, 35, 50, 70, 95, 120, 240, 800);
    const gauge = fc.constantFrom(26, 18, 14, 8, 3, 1, 0, -1, -3).map(gaugeMm2);
    const thick = fc.constantFrom(250, 500, 1000).map(kcmilMm2);
    fc.assert(
      fc.property(fc.oneof(metric, gauge, thick), fc.constantFrom(US, METRIC), (areaMm2, style) => {
        const read = typedWireSize(wireSizeToType(areaMm2, style), style, MOST_MM2);
        expect(read.kind).toBe("size");
        if (read.kind === "size") expect(Math.abs(read.areaMm2 - areaMm2)).toBeLessThanOrEqual(0.02 * areaMm2);
      }),
    );
  });

  it("never throws, whatever is typed", () => {
    fc.assert(
      fc.property(fc.string(), fc.constantFrom(US, METRIC), (text, style) => {
        expect(["size", "nothing", "unreadable"]).toContain(typedWireSize(text, style, MOST_MM2).kind);
      }),
    );
  });
});
