import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { countFindings, findingSchema } from "@/core/findings";
import type { JobDocument } from "@/core/job/jobDocument";
import { jobSummary, quickDiagnosis } from "@/core/jobSummary";
import { sortFindings } from "@/core/job/openFindings";
import { changeNode } from "@/core/edits/editPlan";
import type { VisitEntry } from "@/core/visit/visitEntry";
import { visitSheet, type VisitSheet } from "@/core/visit/visitSheet";
import { contentMark, visitState } from "@/core/visit/visitState";
import { hasReadings, rememberedFindings, STAGES, type JobView } from "@/core/stages";
import { anyRecipe, documentOf } from "../../tests/fixtures/anyDocument";
import { jobFromPattern } from "../../tests/fixtures/shipped";

const RUNS = 40;

function viewOf(document: JobDocument): JobView {
  const sheet = visitSheet(document);
  const diagnosis = hasReadings(document) ? quickDiagnosis(document) : undefined;
  return { document, sheet, visit: visitState(sheet, []), diagnosis };
}

type StepEntry = Extract<VisitEntry, { readonly step: string }> & { readonly step: string };

/** Good and bad results, skips and reopened steps of a sheet, some of them recorded when it said something else. */
function anyLog({ steps }: VisitSheet, numbers: Iterator<number>, visit: string): readonly StepEntry[] {
  const draw = (below: number) => (numbers.next().value as number) % below;
  if (steps.length === 0) return [];
  return Array.from({ length: draw(30) }, (_, at): StepEntry => {
    const step = steps[draw(steps.length)]!;
    const common = {
      id: `00000000-0000-4000-8000-${String(at).padStart(12, "0")}`,
      at: "2026-11-26T08:00:00.000Z",
      person: "Robin",
      visit,
      step: step.id,
      title: step.title,
      content: draw(3) === 0 ? "older" : contentMark(step),
    };
    switch (draw(4)) {
      case 0:
        return { ...common, kind: "skip", reason: "The cabinet is locked" };
      case 1:
        return { ...common, kind: "reopen", reason: "Not sure of it" };
      case 2:
        return { ...common, kind: "start" };
      default:
        return { ...common, kind: "result", said: "", outside: draw(2) === 0 ? ["Too high"] : [] };
    }
  });
}

describe("the table of stages", () => {
  it("has every stage that a finding can be of, in their order, each with a name and a letter of its own", () => {
    expect(STAGES.map(({ id }) => id)).toEqual(findingSchema.shape.stage.options);
    expect(new Set(STAGES.map(({ key }) => key)).size).toBe(STAGES.length);
    expect(new Set(STAGES.map(({ name }) => name)).size).toBe(STAGES.length);
  });

  it("says of every job where each stage is, and its findings are of no other stage", () => {
    fc.assert(
      fc.property(anyRecipe, (recipe) => {
        const view = viewOf(documentOf(recipe));
        for (const { id, findings, state } of STAGES) {
          const own = findings(view);
          expect(own.filter(({ stage }) => stage !== id)).toEqual([]);
          expect(state(view, 0)).not.toBe("");
          if (!["visit", "prove", "handover", "bench"].includes(id)) expect(state(view, 3)).toBe("3 to fix");
        }
      }),
      { numRuns: RUNS },
    );
  });
});

describe("findings that are remembered", () => {
  it("are what they would be made anew, whatever was changed in between", () => {
    fc.assert(
      fc.property(fc.array(anyRecipe, { minLength: 2, maxLength: 4 }), (recipes) => {
        const findingsOf = rememberedFindings();
        for (const recipe of recipes) {
          const view = viewOf(documentOf(recipe));
          expect(findingsOf(view)).toEqual(STAGES.flatMap(({ findings }) => findings(view)));
        }
      }),
      { numRuns: RUNS / 2 },
    );
  });

  it("are made anew for the stages whose ground changed, and for no other", () => {
    const findingsOf = rememberedFindings();
    const document = jobFromPattern("diverter-and-hub");
    const view = viewOf(document);
    const before = new Set(findingsOf(view));
    expect(before.size).toBeGreaterThan(2);
    expect(findingsOf({ ...view }).every((finding) => before.has(finding))).toBe(true);
    const limited = { ...document, limit: { ...document.limit, powerW: 1000 } };
    const after = findingsOf({ ...view, document: limited });
    expect(after.filter((finding) => !before.has(finding)).every(({ stage }) => /limit|divert/.test(stage))).toBe(true);
    expect(after.length).toBeGreaterThan(before.size);
    const renamed = viewOf(changeNode("heater", { name: "Immersion" })(document));
    expect(findingsOf(renamed).some((finding) => before.has(finding))).toBe(false);
  });
});

describe("the list of jobs", () => {
  it("counts the findings that the open job counts", () => {
    fc.assert(
      fc.property(anyRecipe, (recipe) => {
        const document = documentOf(recipe);
        const { open } = sortFindings(rememberedFindings()(viewOf(document)), document.accepted);
        expect(jobSummary(document).findings).toEqual(countFindings(open));
      }),
      { numRuns: RUNS },
    );
  });

  it("counts what the log of a visit finds, and needs no more of it than the last entry about each step", () => {
    let found = 0;
    fc.assert(
      fc.property(anyRecipe, fc.infiniteStream(fc.nat()), (recipe, numbers) => {
        const document = documentOf(recipe);
        const sheet = visitSheet(document);
        const log = anyLog(sheet, numbers, document.visit.id);
        const view = { ...viewOf(document), visit: visitState(sheet, log, document.visit.id) };
        const { open } = sortFindings(rememberedFindings()(view), document.accepted);
        const summary = jobSummary(document, log);
        found += countFindings(open).fix - jobSummary(document).findings.fix;
        expect(summary.findings).toEqual(countFindings(open));
        const last = log.filter((entry, at) => log.findLastIndex(({ step }) => step === entry.step) === at);
        expect(jobSummary(document, last)).toEqual(summary);
      }),
      { numRuns: RUNS },
    );
    expect(found).toBeGreaterThan(0);
  });

  it("counts what is wrong with the limit too", () => {
    const document = jobFromPattern("power-line-modules");
    const limited = { ...document, limit: { ...document.limit, powerW: 1000 } };
    expect(jobSummary(limited).findings.fix).toBe(jobSummary(document).findings.fix + 1);
  });
});
