import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { gaugeMm2, kcmilMm2, soldWireSize, wireSizeOf } from "@/core/wireSize";

/** As the standard's table prints them, mm². */
const PRINTED = [
  [24, 0.205],
  [22, 0.326],
  [18, 0.823],
  [14, 2.08],
  [12, 3.31],
  [10, 5.26],
  [8, 8.37],
  [6, 13.3],
  [4, 21.2],
  [1, 42.4],
  [0, 53.5],
  [-1, 67.4],
  [-2, 85],
  [-3, 107],
] as const;

const areas = fc.double({ min: 0.13, max: 500, noNaN: true });

describe("wire by gauge", () => {
  it.each(PRINTED)("of gauge %s has %s mm²", (gauge, areaMm2) => {
    expect(gaugeMm2(gauge)).toBe(areaMm2);
  });

  it("goes on in thousands of circular mils above 4/0", () => {
    expect([kcmilMm2(250), kcmilMm2(500), kcmilMm2(1000)]).toEqual([127, 253, 507]);
    expect(soldWireSize(120, "as-large")).toBe("250 kcmil");
    expect(soldWireSize(120, "as-small")).toBe("4/0 AWG");
    expect([soldWireSize(600, "as-large"), soldWireSize(0.05, "as-small")]).toEqual([undefined, undefined]);
  });

  it("is never thinner than a section asks, nor thicker than a terminal takes, but for what tables round", () => {
    fc.assert(
      fc.property(areas, (areaMm2) => {
        const [large, small] = [soldWireSize(areaMm2, "as-large")!, soldWireSize(areaMm2, "as-small")!];
        expect(areaOf(large)).toBeGreaterThanOrEqual(areaMm2 * 0.98);
        expect(areaOf(small)).toBeLessThanOrEqual(areaMm2 * 1.02);
        const same = wireSizeOf(areaMm2);
        if (same !== undefined) expect([large, small]).toContain(same);
        else expect(areaOf(large)).toBeGreaterThan(areaOf(small));
      }),
    );
  });
});

/** From the name alone. */
function areaOf(name: string): number {
  const [, aughts] = /^(\d)\/0 AWG$/.exec(name) ?? [];
  if (aughts !== undefined) return gaugeMm2(1 - Number(aughts));
  const number = Number.parseInt(name, 10);
  return name.endsWith("kcmil") ? kcmilMm2(number) : gaugeMm2(number);
}
