import { describe, expect, it } from "vitest";
import { materials } from "@/core/visit/materials";
import { printedMaterials } from "@/core/visit/printedMaterials";
import { jobFromPattern } from "../../../tests/fixtures/shipped";

const FT_PER_M = 1 / 0.3048;

describe("what to bring, as it is bought", () => {
  const job = jobFromPattern("split-phase-backup");

  it("is by the foot and by gauge on 120/240 V, with nothing lost or added", () => {
    const [plain, printed] = [materials(job), printedMaterials(job)];
    expect(printed.map(({ id }) => id)).toEqual(plain.map(({ id }) => id));
    for (const [at, line] of printed.entries()) {
      const { quantity, unit, uses } = plain[at]!;
      expect(line.unit).toBe(unit === "m" ? "ft" : unit);
      const scale = unit === "m" ? FT_PER_M : 1;
      for (const [own, whole] of [
        [line.quantity, quantity],
        ...line.uses.map((use, n) => [use.quantity, uses[n]!.quantity]),
      ])
        expect(own! / scale).toBeCloseTo(whole!, 1);
      expect(`${line.text} ${line.why}`).not.toMatch(/\d (m(?![\w²·])|mm²(?!\)))/);
    }
    expect(printed.some(({ text }) => text.includes("AWG"))).toBe(true);
  });

  it("stays as it is elsewhere", () => {
    const metric = jobFromPattern("energy-manager");
    expect(printedMaterials(metric)).toEqual(materials(metric));
  });
});
