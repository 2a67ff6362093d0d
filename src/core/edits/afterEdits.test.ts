import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { plainText } from "@/core/sentence";
import { resolve } from "@/core/plan/resolve";
import type { Finding } from "@/core/findings";
import { whoSeesWhat } from "@/core/control/whoSeesWhat";
import { controlFindings, limitState } from "@/core/control/controlFindings";
import { diversionOfPlan } from "@/core/control/divertOfPlan";
import { limitEntries } from "@/core/control/limitEntries";
import { limitLacks, exportLimiter, limitRequest } from "@/core/control/exportLimiter";
import { changeLinks } from "@/core/job/changeLinks";
import { importJob } from "@/core/job/importJob";
import { jobSummary } from "@/core/jobSummary";
import { limitSettingsSchema } from "@/core/plan/limitSettings";
import { planFindings } from "@/core/job/planFindings";
import { wireFindings } from "@/core/job/wireFindings";
import type { JobDocument } from "@/core/job/jobDocument";
import { linkMap } from "@/core/links/linkMap";
import { proposeLinks } from "@/core/links/propose/proposeLinks";
import { readingAges } from "@/core/links/bus/readingAges";
import { wiringSchedule } from "@/core/links/wiring/wiringSchedule";
import { labels } from "@/core/visit/labels";
import { materials } from "@/core/visit/materials";
import { visitSheet } from "@/core/visit/visitSheet";
import { visitFindings, visitState } from "@/core/visit/visitState";
import { FORGOTTEN } from "../../../tests/fixtures/forgotten";
import { jobFromPattern, shippedPatterns } from "../../../tests/fixtures/shipped";
import { anyEdit, edited } from "../../../tests/fixtures/randomEdits";

const RUNS = { numRuns: 40 };

/** Any job that somebody could have made from a pattern, with a limit on it. */
const anyJob = fc
  .record({
    pattern: fc.constantFrom(...shippedPatterns().map(({ id }) => id)),
    steps: fc.array(anyEdit, { maxLength: 10 }),
    powerW: fc.integer({ min: 0, max: 20_000 }),
  })
  .map(({ pattern, steps, powerW }): JobDocument =>
    steps.reduce<JobDocument>((job, step) => edited(job, step), {
      ...jobFromPattern(pattern),
      limit: limitSettingsSchema.parse({ powerW }),
    }),
  );

function expectWhole(findings: readonly Finding[]): void {
  expect(new Set(findings.map(({ id }) => id)).size).toBe(findings.length);
  for (const { title, detail, cure, source } of findings)
    for (const text of [title, plainText(detail), plainText(cure), source]) {
      expect(text).not.toMatch(FORGOTTEN);
      expect(text.trim()).not.toBe("");
    }
}

describe("a plan after any edits", () => {
  it("proposes links between ports that are there, and keeps those that still hold", () => {
    fc.assert(
      fc.property(anyJob, (job) => {
        const anew = changeLinks(job, () => [...proposeLinks(resolve(job))]);
        for (const link of resolve(anew).links) expect(link.whole).toHaveLength(link.members.length);
        expect(wireFindings(resolve(anew)).filter(({ code }) => code === "member-gone")).toEqual([]);
        expect(JSON.stringify(linkMap(resolve(anew)))).not.toMatch(/NaN/);
      }),
      RUNS,
    );
  });

  it("has whole findings in every stage, each under an id of its own", () => {
    fc.assert(
      fc.property(anyJob, (job) => {
        for (const findings of [planFindings(resolve(job)), wireFindings(resolve(job)), controlFindings(resolve(job))])
          expectWhole(findings);
      }),
      RUNS,
    );
  });

  it("still has a run sheet that begins with looking, ends with closing up, and keeps every need", () => {
    fc.assert(
      fc.property(anyJob, (job) => {
        const sheet = visitSheet(job);
        const at = new Map(sheet.steps.map(({ id }, index) => [id, index]));
        expect(at.size).toBe(sheet.steps.length);
        if (job.visit.kind !== "service") expect(sheet.steps[0]?.tag).toBe("survey");
        expect(sheet.steps.at(-1)?.stage).toBe("close");
        for (const step of sheet.steps)
          for (const need of step.needs) expect(at.get(need.step)!).toBeLessThan(at.get(step.id)!);
        for (const { title, why, content } of sheet.steps)
          for (const text of [title, why, ...content.map(({ value }) => value)]) expect(text).not.toMatch(FORGOTTEN);
        expectWhole(visitFindings(sheet, visitState(sheet, [])));
      }),
      RUNS,
    );
  });

  it("is wired, labelled, packed for and summed up without a gap", () => {
    fc.assert(
      fc.property(anyJob, (job) => {
        for (const row of wiringSchedule(resolve(job)))
          for (const text of [row.colour, row.cable, row.from.item, row.to?.item ?? "", ...row.notes])
            expect(text).not.toMatch(FORGOTTEN);
        for (const { oldestMs } of readingAges(resolve(job))) expect(oldestMs).toBeGreaterThan(0);
        expect(JSON.stringify(labels(job, "2026-11-26"))).not.toMatch(/undefined|NaN/);
        expect(JSON.stringify(materials(job))).not.toMatch(/undefined|NaN/);
        expect(jobSummary(job).supply).not.toMatch(FORGOTTEN);
      }),
      RUNS,
    );
  });

  it("says who limits, or what is missing; never both and never neither", () => {
    fc.assert(
      fc.property(anyJob, (job) => {
        const plan = exportLimiter(resolve(job));
        expect(limitLacks(resolve(job)).length === 0).toBe(plan !== undefined);
        expect(limitState(job.limit)).toBe("not proved");
        if (!plan) return;
        for (const { device, entries } of limitEntries(resolve(job), plan))
          for (const text of [device, ...entries.flatMap(({ field, value, why }) => [field, value, why])])
            expect(text).not.toMatch(FORGOTTEN);
        const { inverters, meter } = limitRequest(resolve(job), plan, "load-drop");
        expect(inverters).toHaveLength(plan.inverters.length);
        expect(meter.delayMs).toBeGreaterThanOrEqual(0);
      }),
      RUNS,
    );
  });

  it("has a surplus that can be simulated, and sights that are numbers", () => {
    fc.assert(
      fc.property(anyJob, (job) => {
        const request = diversionOfPlan(resolve(job), { days: 1, stepMin: 15, series: false });
        expect(request.orders.length).toBeGreaterThan(0);
        for (const as of ["planned", "fitted"] as const)
          for (const { factor } of whoSeesWhat(resolve(job), as)) expect(Number.isFinite(factor)).toBe(true);
      }),
      RUNS,
    );
  });

  it("comes back from its file as it was", () => {
    fc.assert(
      fc.property(anyJob, (job) => {
        const outcome = importJob(JSON.stringify(job));
        expect(outcome.kind).toBe("job");
        if (outcome.kind === "job") expect(outcome.document).toEqual(JSON.parse(JSON.stringify(job)));
      }),
      RUNS,
    );
  });
});
