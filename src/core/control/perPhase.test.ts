import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { controlFindings } from "@/core/control/controlFindings";
import { exportLimiter, limitRequest } from "@/core/control/exportLimiter";
import { limitCostOfPlan } from "@/core/control/limitCostOfPlan";
import { limitEntries } from "@/core/control/limitEntries";
import { judgedProof, recordingOfRows, standingProof, stepTestRecipe, unprovenPhases } from "@/core/control/stepTest";
import type { JobDocument } from "@/core/job/jobDocument";
import { resolve } from "@/core/plan/resolve";
import { exportLimit } from "@/core/simulation/exportLimit";
import { limitCost } from "@/core/simulation/limitCost";
import { jobFromPattern } from "../../../tests/fixtures/shipped";

const PHASES = ["L1", "L2", "L3"] as const;
const ABOUT = { at: "2026-11-26T10:00:00.000Z", person: "Kim", label: "Load off" };
const about = (n: number) => ({ ...ABOUT, id: `00000000-0000-4000-8000-00000000000${n}` });

/** Three inverters of 10 kW on three phases, so 10 kW on each. */
function farmWith(limit: Partial<JobDocument["limit"]>): JobDocument {
  const job = jobFromPattern("export-controller");
  return { ...job, limit: { ...job.limit, basis: "per-phase", secondsAllowed: 5, ...limit } };
}
const recipeOf = (job: JobDocument) =>
  stepTestRecipe(job.limit, exportLimiter(resolve(job))!, job.site.nodes, job.site.supply).join("\n");

describe("A limit on each phase", () => {
  it("holds each of them in time, with its own trace", () => {
    const job = farmWith({ powerW: 2000 });
    const request = limitRequest(resolve(job), exportLimiter(resolve(job))!, "load-drop");
    const { series, settledExportW, verdict } = exportLimit(request);
    expect(verdict).toBe("holds");
    for (const phase of PHASES) expect(-series.phaseW[phase]!.at(-1)!).toBeLessThanOrEqual(2000 + 1);
    expect(settledExportW).toBeLessThanOrEqual(2000 + 1);
  });

  it("costs nothing where all phases at the limit let out more than is ever made", () => {
    const costOf = (powerW: number, basis: "sum" | "per-phase") => {
      const job = farmWith({ powerW, basis });
      const request = limitCostOfPlan(resolve(job), exportLimiter(resolve(job))!)!;
      return limitCost({ ...request, fields: [{ ...request.fields[0]!, kwp: 33 }] });
    };
    expect(costOf(12_000, "per-phase")).toMatchObject({ limitKwh: 0, holdsAll: true });
    expect(costOf(12_000, "sum")).toMatchObject({ holdsAll: false });
    expect(costOf(12_000, "sum").limitKwh).toBeGreaterThan(1000);
    // As much on each as on the sum: what limiting each phase takes beside is told apart.
    const [each, sum] = [costOf(4000, "per-phase"), costOf(12_000, "sum")];
    expect(each.limitKwh).toBeGreaterThanOrEqual(sum.limitKwh - 1e-6);
  });

  it("takes never less than the sum of as much, whoever draws where", () => {
    const base = limitCostOfPlan(resolve(farmWith({ powerW: 4000 })), exportLimiter(resolve(farmWith({})))!)!;
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 0, max: 10 }), { minLength: 3, maxLength: 3 }).filter((own) => own.some(Boolean)),
        fc.integer({ min: 500, max: 9000 }),
        (draws, limitW) => {
          const total = draws.reduce((sum, own) => sum + own, 0);
          const request = { ...base, setPointW: limitW, houseOnPhase: draws.map((own) => own / total) };
          const each = limitCost({ ...request, limitW, basis: "per-phase" });
          const sum = limitCost({ ...request, limitW: 3 * limitW, setPointW: 3 * limitW, basis: "sum" });
          expect(each.limitKwh).toBeGreaterThanOrEqual(sum.limitKwh - 1e-6);
          expect(each.limitKwh).toBeCloseTo(sum.limitKwh + each.perPhaseKwh, 6);
          expect(each.perPhaseKwh).toBeCloseTo(sum.perPhaseKwh, 6);
        },
      ),
      { numRuns: 6 },
    );
  });

  it("is typed in percent of what is on each phase", () => {
    const job = farmWith({ powerW: 5000, setPointW: 5000 });
    const plan = resolve(job);
    const limiter = exportLimiter(plan)!;
    const percent = { ...limiter.controller.kit.exportLimit!, unit: "percent" as const, min: 0, max: 100, step: 1 };
    const controller = { ...limiter.controller, kit: { ...limiter.controller.kit, exportLimit: percent } };
    const [own] = limitEntries(plan, { ...limiter, controller });
    expect(own!.entries[0]!.value).toBe("50 %");
  });
});

describe("The step test of a limit on each phase", () => {
  it("asks for every phase, and lowers a limit that no sun reaches", () => {
    expect(recipeOf(farmWith({ powerW: 2000 }))).toContain("more than 2000 W of 10000 W on L1");
    expect(recipeOf(farmWith({ powerW: 2000 }))).toContain("one phase alone proves one phase");
    const high = recipeOf(farmWith({ powerW: 12_000 }));
    expect(high).toContain("at most 10000 W on L1, so 12000 W are never reached");
    expect(high).toContain("set the limit to 5000 W");
    expect(recipeOf(farmWith({ powerW: 40_000, basis: "sum" }))).toContain("at most 30000 W, so 40000 W");
  });

  it("reads three columns with their units, and says which row is bad", () => {
    const phases = { L1: "a", L2: "b", L3: "c" };
    const columns = { time: "t", power: "", isExportPositive: false, unit: "W" as const, phases };
    const rows = (...own: readonly string[][]) => own.map(([t, a, b, c]) => ({ t: t!, a: a!, b: b!, c: c! }));
    const outcome = recordingOfRows(
      rows(["0", "-1,4 kW", "-900", "200"], ["1", "-1500", "-1,9 kW", "0"], ["2", "-1500", "-900", "0"]),
      columns,
    );
    expect(outcome).toEqual({
      kind: "recording",
      recording: {
        tS: [0, 1, 2],
        exportW: [1400, 1900, 1500],
        phaseW: { L1: [1400, 1500, 1500], L2: [900, 1900, 900], L3: [-200, -0, -0] },
      },
    });
    expect(recordingOfRows(rows(["0", "1", "x", "2"], ["1", "1", "1", "1"]), columns)).toEqual({
      kind: "bad",
      problems: ["Row 2: “x” is no power"],
    });
  });

  it("proves the phases that were recorded and tested, and no others", () => {
    const { limit } = farmWith({ powerW: 2000, setPointW: 1900 });
    const flat = (watts: number) => [watts, watts, watts, watts];
    const tS = [0, 1, 2, 3];
    const only = judgedProof({ tS, exportW: flat(1900), phaseW: { L1: flat(1900) } }, limit, about(1), PHASES);
    expect(only.verdict).toBe("untested");
    expect(unprovenPhases(only)).toEqual(["L2", "L3"]);
    const rest = judgedProof(
      { tS, exportW: flat(1900), phaseW: { L2: flat(1900), L3: flat(1890) } },
      limit,
      about(2),
      PHASES,
    );
    expect(standingProof({ ...limit, proofs: [only, rest] })?.verdict).toBe("holds");
    const calm = judgedProof({ tS, exportW: flat(1900), phaseW: { L2: flat(100) } }, limit, about(3), PHASES);
    expect(unprovenPhases(standingProof({ ...limit, proofs: [only, rest, calm] })!)).toEqual(["L2"]);
    const high = judgedProof({ tS, exportW: flat(2500), phaseW: { L3: flat(2500) } }, limit, about(4), PHASES);
    expect(standingProof({ ...limit, proofs: [only, rest, high] })?.verdict).toBe("too-high");
    const job = farmWith({ powerW: 2000, setPointW: 1900, proofs: [only] });
    const finding = controlFindings(resolve(job)).find(({ code }) => code === "proof-untested");
    expect(finding?.title).toBe("The limit is not proved on every phase");
  });
});
