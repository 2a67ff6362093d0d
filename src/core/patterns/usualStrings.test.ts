import { describe, expect, it } from "vitest";
import { stringVoltageV } from "@/core/visit/stringVoltage";
import { jobFromPattern, shippedPatterns } from "../../../tests/fixtures/shipped";

describe("The strings that a pattern begins with", () => {
  it("are those of every new inverter on the roof, and of none that stands there", () => {
    for (const { id } of shippedPatterns()) {
      const { site, visit } = jobFromPattern(id);
      const expected = site.nodes
        .filter(({ kind, existing }) => (kind === "pv-inverter" || kind === "hybrid-inverter") && !existing)
        .map((node) => node.id);
      expect([...new Set(visit.strings.map(({ device }) => device))]).toEqual(expected);
    }
  });

  it("share the modules that the rating asks for, and stay below 1000 V on a cold morning", () => {
    const { site, visit } = jobFromPattern("export-controller");
    for (const { id, ratedW } of site.nodes.filter(({ kind }) => kind === "pv-inverter")) {
      const own = visit.strings.filter(({ device }) => device === id);
      const modules = own.reduce((sum, string) => sum + string.modules, 0);
      expect(Math.abs(modules * 420 - ratedW!)).toBeLessThan(ratedW! / 10);
      for (const string of own) expect(stringVoltageV(string).most).toBeLessThan(1000);
    }
  });

  it("are one module each for units under the modules", () => {
    expect(jobFromPattern("power-line-modules").visit.strings).toMatchObject([{ modules: 1, vocV: 41 }]);
  });
});
