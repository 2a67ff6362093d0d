import { describe, expect, it } from "vitest";
import { scoringCostMs } from "@/core/flows/diagnosisCost";
import { houseSite, usualSheet } from "../../../tests/fixtures/sites";

describe("scoringCostMs", () => {
  const site = houseSite("three-phase");
  const sheet = { ...usualSheet(site, 2), background: [] };

  it("grows in step with explanations and readings, and faster with what lasts", () => {
    const of = (explanations: number, steps = sheet.steps) => scoringCostMs(site, { ...sheet, steps }, explanations);
    expect(of(2_000)).toBeCloseTo(2 * of(1_000), 9);
    const [first] = sheet.steps;
    const readings = site.meters[0]!.inputs.map(({ n }) => ({ meter: site.meters[0]!.id, input: n, powerW: 1 }));
    const inputs = site.meters.reduce((sum, meter) => sum + meter.inputs.length, 0);
    expect(of(1_000, [{ ...first!, readings }]) / of(1_000, [])).toBeCloseTo((inputs + readings.length) / inputs, 9);
    const lasting = {
      ...sheet,
      background: Array.from({ length: 7 }, () => ({ node: "house", meanW: 0, sigmaW: 1 })),
    } as never;
    expect(scoringCostMs(site, lasting, 1_000) / of(1_000)).toBeCloseTo((9 / 2) ** 1.5, 9);
  });
});
