import { describe, expect, it } from "vitest";
import { diagnose, fittingWith } from "@/core/flows/diagnose";
import { addPlanned } from "@/core/flows/editSheet";
import { siteWithFitting } from "@/core/flows/fitting";
import { expectedEvidence } from "@/core/flows/proof/expectedSheet";
import { proofPlan, proofPlanRequestSchema, proofTable } from "@/core/flows/proof/proofPlan";
import { simulateSeen } from "@/core/flows/simulateSeen";
import { testSheetShape } from "@/core/flows/testSheetSchema";
import { seededNormal } from "@/core/random";
import { houseSite } from "../../../../tests/fixtures/sites";

const ASSUMED = { noise: { absoluteW: 8, relative: 0.01 } };

describe("the shortest proof", () => {
  it.each([
    ["single-phase", 20],
    ["split-phase", 44],
    ["three-phase", 75],
  ] as const)("of a %s house tells every one of its %d single faults", (system, faults) => {
    const plan = proofPlan(houseSite(system), ASSUMED);
    expect(plan.singleFaults).toEqual({ told: faults, of: faults });
    expect(plan.pairsToldPct).toBeGreaterThan(97);
    expect(plan.steps.reduce((sum, { minutes }) => sum + minutes, 0)).toBeLessThanOrEqual(9);
  });

  it("leaves no step that is not needed: without any of them a fault is not told", () => {
    const site = houseSite("three-phase");
    const { steps, singleFaults } = proofPlan(site, ASSUMED);
    for (const [at] of steps.entries()) {
      const fewer = steps.toSpliced(at, 1).map(({ devices }) => devices);
      expect(proofTable(site, ASSUMED, fewer).singleFaults.told).toBeLessThan(singleFaults.of);
    }
  });

  it("is enough for the diagnosis: a fault is among the first by these steps, a right plan as planned", () => {
    const site = houseSite("three-phase");
    const plan = proofPlan(site, ASSUMED);
    const empty = testSheetShape.parse({ ...ASSUMED, maxFaults: 1 });
    let id = 0;
    const sheet = addPlanned(empty, plan.steps, () => `s${id++}`);
    expect(sheet.steps.map(({ label }) => label)).toEqual(plan.steps.map(({ label }) => label));
    for (const [seed, { faults }] of [{ faults: [] }, ...plan.excluded.filter((_, at) => at % 11 === 0)].entries()) {
      const fitted = siteWithFitting(site, fittingWith(site, faults));
      const outcome = diagnose(site, { ...sheet, steps: simulateSeen(fitted, sheet, seededNormal(seed + 40)) });
      if (outcome.kind !== "diagnosed") throw new Error("not diagnosed");
      const { verdict, hypotheses } = outcome.diagnosis;
      if (faults.length > 0) expect(verdict).not.toBe("as-planned");
      else expect(verdict).toBe("as-planned");
      // Two ratios that are hardly apart may change places; what it is stands among the first.
      const first = hypotheses.slice(0, 3).flatMap((own) => [own.faults, ...own.alternatives]);
      expect(first.map((own) => JSON.stringify(own))).toContain(JSON.stringify(faults));
    }
  });

  it("says by which step each fault is told, what cannot be told, and what would", () => {
    const site = houseSite("single-phase");
    const plan = proofPlan(site, ASSUMED);
    const steps = plan.steps.map(({ devices }) => devices);
    const whole = proofTable(site, ASSUMED, steps);
    expect(whole.singleFaults).toEqual(plan.singleFaults);
    for (const { toldBy, words } of whole.excluded) {
      expect(toldBy).toBeLessThan(steps.length);
      expect(words.length).toBeGreaterThan(5);
    }
    const none = proofTable(site, ASSUMED, []);
    expect(none.singleFaults.told).toBe(0);
    expect(none.cannotTell[0]).toMatchObject({ with: [], why: expect.stringContaining("this proof") as string });
    const atRest = proofTable(site, ASSUMED, steps.slice(0, 1));
    expect(atRest.singleFaults.told).toBeLessThan(whole.singleFaults.told);
    for (const { wouldNeed } of [...atRest.cannotTell, ...whole.cannotTell]) expect(wouldNeed).not.toBe("");
  });

  it("weighs two readings four deviations apart as eight, and the same as nothing", () => {
    const at = (watts: number) => ({ mean: Float64Array.of(watts), lower: Float64Array.of(10), logDet: Math.log(100) });
    expect(expectedEvidence(at(0), at(40))).toBeCloseTo(8, 12);
    expect(expectedEvidence(at(7), at(7))).toBeCloseTo(0, 12);
    const wide = { mean: Float64Array.of(0), lower: Float64Array.of(20), logDet: Math.log(400) };
    // ½ (1/4 − 1 + ln 4).
    expect(expectedEvidence(at(0), wide)).toBeCloseTo(0.5 * (0.25 - 1 + Math.log(4)), 12);
  });

  it("refuses more inputs than it can plan for, and an unknown load", () => {
    const site = houseSite("single-phase");
    expect(proofPlanRequestSchema.safeParse({ site, background: [{ node: "nobody" }] }).error?.issues[0]?.path).toEqual(
      ["background", 0, "node"],
    );
    const many = { ...site, meters: Array.from({ length: 24 }, (_, at) => ({ ...site.meters[0]!, id: `m${at}` })) };
    const [meter] = many.meters;
    const wide = {
      ...many,
      cts: [],
      meters: [...many.meters.slice(1), { ...meter!, inputs: [1, 2].map((n) => ({ ...meter!.inputs[0]!, n })) }],
    };
    expect(proofPlanRequestSchema.safeParse({ site: wide }).success).toBe(false);
  });
});
