import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { diversionOfPlan } from "@/core/control/divertOfPlan";
import type { JobDocument } from "@/core/job/jobDocument";
import { resolve } from "@/core/plan/resolve";
import { diversionRequestSchema } from "@/core/simulation/diversionSchema";
import { anyDoubled } from "../../../tests/fixtures/secondOfAKit";
import { jobFromPattern } from "../../../tests/fixtures/shipped";

const surplusOf = (job: JobDocument) => diversionOfPlan(resolve(job), { days: 1, stepMin: 1, series: false });

/** The job with one device of a kind as often as said. */
function withSome(job: JobDocument, kind: string, count: number): JobDocument {
  const nodes = job.site.nodes.filter((node) => node.kind !== kind);
  const own = job.site.nodes.find((node) => node.kind === kind)!;
  const some = Array.from({ length: count }, (_, at) => ({ ...own, id: `${own.id}-${at}` }));
  return { ...job, site: { ...job.site, nodes: [...nodes, ...some] } };
}

const home = jobFromPattern("diverter-and-hub");

describe("What a plan says of its surplus", () => {
  it("is something that the simulation takes, for any plan", () => {
    fc.assert(
      fc.property(anyDoubled, (job) => {
        expect(diversionRequestSchema.safeParse(surplusOf(job)).error?.issues).toBeUndefined();
      }),
    );
  });

  it("is so however many heaters and chargers there are, and whatever the supply is said to have", () => {
    for (const voltageV of [60, 120, 230, 400]) {
      const many = withSome(withSome(home, "diverter", 60), "ev-charger", 60);
      const job = { ...many, site: { ...many.site, supply: { ...many.site.supply, voltageV } } };
      expect(diversionRequestSchema.safeParse(surplusOf(job)).error?.issues).toBeUndefined();
    }
  });

  it.each([1, 2, 3])("counts every one of %i heaters: power, water, and what is drawn of it", (count) => {
    const one = surplusOf(withSome(home, "diverter", 1)).heater!;
    const all = surplusOf(withSome(home, "diverter", count)).heater!;
    expect([all.ratedW, all.litres, all.drawLitresADay]).toEqual(
      [one.ratedW, one.litres, one.drawLitresADay].map((value) => count * value),
    );
    // Each tank loses by itself.
    expect(all.lossWPerK / all.litres).toBeCloseTo(one.lossWPerK / one.litres, 9);
    expect(surplusOf(withSome(home, "diverter", 0)).heater).toBeUndefined();
  });

  it.each([1, 2])("counts every one of %i chargers, up to what a simulation takes", (count) => {
    const one = surplusOf(withSome(home, "ev-charger", 1)).vehicle!;
    const all = surplusOf(withSome(home, "ev-charger", count)).vehicle!;
    expect(all.kmADay).toBe(count * one.kmADay);
    expect(all.maxA).toBe(Math.round((count * 7400) / 230));
    expect(surplusOf(withSome(home, "ev-charger", 12)).vehicle!.maxA).toBe(80);
  });

  it("gives a charger its power whatever the supply: on one phase, two, three, or between two lines", () => {
    const powerW = (job: JobDocument) => {
      const { maxA, voltageV, phases } = surplusOf(job).vehicle!;
      return maxA * voltageV * phases;
    };
    const three = jobFromPattern("energy-manager");
    const onPhases = (phases: readonly ("L1" | "L2" | "L3")[]) => {
      const job = withSome(three, "ev-charger", 1);
      const nodes = job.site.nodes.map((node) =>
        node.kind === "ev-charger" ? { ...node, ratedW: 7400, phases: [...phases] } : node,
      );
      return { ...job, site: { ...job.site, nodes } };
    };
    const split = {
      ...home,
      site: { ...home.site, supply: { ...home.site.supply, system: "split-phase" as const, voltageV: 120 } },
    };
    for (const job of [home, split, onPhases(["L1"]), onPhases(["L1", "L2"]), onPhases(["L1", "L2", "L3"])])
      expect(Math.abs(powerW(job) - 7400)).toBeLessThan(400);
  });
});
