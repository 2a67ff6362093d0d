import { describe, expect, it, vi } from "vitest";
import { diagnose } from "@/core/flows/diagnose";
import { evidenceOf, PLANNED } from "@/core/flows/doubt";
import { EvidenceScorer, jointEvidence, otherParts } from "@/core/flows/evidence";
import type { SeenStep } from "@/core/flows/factoredStep";
import { hypothesisSet } from "@/core/flows/hypotheses";
import { oddities, sheetVariants } from "@/core/flows/oddities";
import { simulateSeen } from "@/core/flows/simulateSeen";
import { testProblem } from "@/core/flows/testProblem";
import type { TestSheet } from "@/core/flows/testSheetSchema";
import { seededNormal } from "@/core/random";
import { inOneGo } from "@/core/slices";
import { houseSite, usualSheet } from "../../../tests/fixtures/sites";

const site = houseSite("three-phase", { solarMeter: true });
const asked = usualSheet(site);
const sheet: TestSheet = {
  ...asked,
  steps: simulateSeen(site, asked, seededNormal(11)).map((step) => ({ ...step, source: "seen" as const })),
};
const problem = testProblem(site, sheet);

/** The sheet with one reading turned. */
function turned(step: number, reading: number, turn: (powerW: number) => number): TestSheet {
  const steps = sheet.steps.map((own, at) => ({
    ...own,
    readings: own.readings.map((seen, which) =>
      at === step && which === reading ? { ...seen, powerW: turn(seen.powerW) } : seen,
    ),
  }));
  return { ...sheet, steps };
}

function diagnosed(of: TestSheet) {
  const outcome = diagnose(site, of);
  if (outcome.kind !== "diagnosed") throw new Error(outcome.kind);
  return outcome.diagnosis;
}

describe("What may be odd in a sheet", () => {
  const all = oddities(problem);

  it("is every reading, every meter of a step, every switching of the house and every named device that runs", () => {
    const count = (kind: string) => all.filter((odd) => odd.kind === kind).length;
    const readings = sheet.steps.reduce((sum, { readings: own }) => sum + own.length, 0);
    const running = sheet.steps.reduce(
      (sum, { devices }) => sum + devices.filter(({ powerW }) => powerW !== 0).length,
      0,
    );
    expect(count("reading")).toBe(readings);
    expect(count("meter")).toBe(2 * sheet.steps.length);
    expect(count("switching")).toBe(3 * sheet.steps.length);
    expect(count("device")).toBe(running);
  });

  it("changes one step and leaves all others as they were seen", () => {
    for (const { step, seen, prior, lost } of all) {
      seen.forEach((own, at) => expect(own === problem.seen[at]).toBe(at !== step));
      expect(prior).toBeGreaterThan(0);
      expect(lost).toBeGreaterThanOrEqual(0);
    }
  });

  it("has the sun at two moments only where two meters are read while something gives", () => {
    expect(sheetVariants(problem).map(({ id }) => id)).toEqual(["wide-background", "other-moments"]);
    const alone = houseSite("three-phase");
    const one = testProblem(alone, usualSheet(alone));
    expect(sheetVariants(one).map(({ id }) => id)).toEqual(["wide-background"]);
  });
});

describe("Steps that were looked at apart", () => {
  it("come to the evidence of all of them at once, whichever step is odd", () => {
    const set = inOneGo(hypothesisSet(site, problem.candidates, 1, problem.responses));
    const scorerOf = (seen: readonly SeenStep[]) => new EvidenceScorer(set, evidenceOf(problem, seen));
    for (const id of [PLANNED, 1, set.count - 1]) {
      const parts = problem.seen.map((step) => scorerOf([step]).part(id));
      const others = otherParts(parts, problem.lastingCount);
      for (const { step, seen } of oddities(problem)) {
        const apart = jointEvidence(others[step]!, scorerOf([seen[step]!]).part(id), problem.lastingCount);
        const whole = scorerOf(seen).score(id);
        expect(apart.logEvidence / whole.logEvidence).toBeCloseTo(1, 9);
        expect(apart.chiSquare / (whole.chiSquare + 1)).toBeCloseTo(whole.chiSquare / (whole.chiSquare + 1), 6);
      }
    }
  });

  it("are tried so often and no more, however long a sheet that nothing explains", () => {
    const steps = Array.from({ length: 8 }, () => sheet.steps).flat();
    const wild = steps.map((step, at) => ({
      ...step,
      readings: step.readings.map((own, which) => ({
        ...own,
        powerW: ((7919 * at + 104_729 * which) % 20_000) - 9_000,
      })),
    }));
    const tried = vi.spyOn(EvidenceScorer.prototype, "part");
    expect(diagnosed({ ...sheet, steps: wild, maxFaults: 1 }).verdict).toBe("not-explained");
    expect(tried.mock.calls.length).toBeLessThan(30_000);
    tried.mockRestore();
  });
});

describe("A doubt", () => {
  it.each([
    [1, "times ten", (powerW: number) => 10 * powerW, "a decimal point in another place"],
    [1, "with another sign", (powerW: number) => -powerW, "without its sign"],
  ] as const)("names step %i, the reading that is %s, and the slip behind it", (step, _what, turn, words) => {
    const { verdict, doubt, nextTests } = diagnosed(turned(step, 0, turn));
    expect(verdict).toBe("reading-doubtful");
    expect(doubt).toMatchObject({ kind: "reading", step, faults: [], why: expect.stringContaining(words) as string });
    expect(doubt!.readings).toMatchObject([{ meter: "m1", input: 1 }]);
    const shown = sheet.steps[step]!.readings[0]!.powerW;
    expect(Math.abs(doubt!.readings[0]!.wouldBeW - shown)).toBeLessThan(0.15 * Math.abs(shown) + 150);
    expect(nextTests[0]!.label).toContain("read again");
  });

  it("says of a display that had not changed yet which step it still showed", () => {
    const before = sheet.steps[0]!.readings[0]!.powerW;
    const { verdict, doubt } = diagnosed(turned(1, 0, () => before));
    expect(verdict).toBe("reading-doubtful");
    // A kettle that was not on would show the same: either is right, and both ask for the same second look.
    expect(["reading", "device", "switching"]).toContain(doubt!.kind);
    expect(doubt!.step).toBe(1);
  });

  it("is none where everything reads right, and none of what no single odd thing explains", () => {
    expect(diagnosed(sheet)).toMatchObject({ verdict: "as-planned", doubt: undefined });
    const wild = {
      ...sheet,
      steps: sheet.steps.map((step, at) => ({
        ...step,
        readings: step.readings.map((own) => ({ ...own, powerW: at % 2 === 0 ? 9000 : -40_000 })),
      })),
    };
    expect(diagnosed(wild)).toMatchObject({ verdict: "not-explained", doubt: undefined });
  });
});
