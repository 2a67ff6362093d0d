import { describe, expect, it } from "vitest";
import { expectedReadings } from "@/core/flows/expectedReadings";
import { predict } from "@/core/flows/predict";
import { simulateSeen } from "@/core/flows/simulateSeen";
import { houseSite, usualSheet } from "../../../tests/fixtures/sites";

describe("expectedReadings", () => {
  it("allows all that the background may be before anything is read", () => {
    const expected = expectedReadings(houseSite("single-phase"), usualSheet(houseSite("single-phase")), undefined);
    expect(expected[1]![0]!.meanW).toBeCloseTo(2400, 6);
    expect(expected[1]![0]!.bandW).toBeCloseTo(2 * Math.sqrt(500 ** 2 + 40 ** 2 + 100 ** 2 + 8 ** 2 + 24 ** 2), 6);
  });

  it("narrows to what was there once readings are explained", () => {
    const site = houseSite("single-phase");
    const turned = { ...site, cts: [{ ...site.cts[0]!, arrow: "to-grid" as const }] };
    const sheet = usualSheet(site);
    const steps = simulateSeen(turned, sheet, () => 0.5);
    const faults = [{ kind: "reversed" as const, meter: "m1", input: 1 }];
    const expected = expectedReadings(site, { ...sheet, steps }, faults);
    // Half a deviation on every draw: background 400 + 250 + 20 and kettle 2000 + 50 are what was really there.
    const truth = predict(site, "planned", {
      devices: [
        { node: "house", powerW: 670, reactiveVar: 0 },
        { node: "kettleL1", powerW: 2050, reactiveVar: 0 },
      ],
    });
    expect(Math.abs(expected[1]![0]!.meanW - truth.inputs[0]!.powerW)).toBeLessThan(60);
    expect(expected[1]![0]!.bandW).toBeLessThan(150);
  });
});
