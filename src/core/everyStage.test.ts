import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { plainFinding } from "@/core/findings";
import { importJob } from "@/core/job/importJob";
import { sortFindings } from "@/core/job/openFindings";
import { jobSummary } from "@/core/jobSummary";
import { resolve } from "@/core/plan/resolve";
import { shownText } from "@/core/sentence";
import { rememberedFindings, STAGES } from "@/core/stages";
import { visitEntrySchema } from "@/core/visit/visitEntry";
import { searchLog, visitLog } from "@/core/visit/visitLog";
import { FORGOTTEN } from "../../tests/fixtures/forgotten";
import { jobFromPattern, shippedPatterns } from "../../tests/fixtures/shipped";
import { anyStageEdit, viewOf, worked, type Worked } from "../../tests/fixtures/stageEdits";

const PATTERNS = shippedPatterns().map(({ id }) => id);
const anyWork = fc.record({
  pattern: fc.constantFrom(...PATTERNS),
  edits: fc.array(anyStageEdit, { minLength: 1, maxLength: 25 }),
});

function after({
  pattern,
  edits,
}: {
  readonly pattern: string;
  readonly edits: readonly Parameters<typeof worked>[1][];
}) {
  return edits.reduce<Worked>(worked, { job: jobFromPattern(pattern), log: [] });
}

describe("a job that was worked on in every stage", () => {
  it("is still a job: its file is taken back as it is, and its log too", () => {
    fc.assert(
      fc.property(anyWork, (work) => {
        const { job, log } = after(work);
        expect(importJob(JSON.stringify(job))).toEqual({ kind: "job", document: job, questions: [] });
        for (const entry of log) expect(visitEntrySchema.parse(entry)).toEqual(entry);
      }),
      { numRuns: 80 },
    );
  });

  it("has whole findings of the right stage, each under an id of its own, and a state in words", () => {
    fc.assert(
      fc.property(anyWork, (work) => {
        const view = viewOf(after(work));
        const all = STAGES.flatMap(({ id, findings, state }) => {
          expect(state(view, 0)).not.toMatch(FORGOTTEN);
          const own = findings(view);
          expect(own.filter(({ stage }) => stage !== id)).toEqual([]);
          return own;
        });
        expect(new Set(all.map(({ id }) => id)).size).toBe(all.length);
        for (const { title, detail, cure } of all.map(plainFinding))
          for (const text of [title, detail, cure]) {
            expect(text).not.toMatch(FORGOTTEN);
            expect(text.trim()).not.toBe("");
          }
      }),
      { numRuns: 80 },
    );
  });

  it("has the same findings whether they are remembered from edit to edit or made anew", () => {
    fc.assert(
      fc.property(anyWork, ({ pattern, edits }) => {
        const findingsOf = rememberedFindings();
        let now: Worked = { job: jobFromPattern(pattern), log: [] };
        for (const edit of edits) {
          now = worked(now, edit);
          expect(findingsOf(viewOf(now))).toEqual(STAGES.flatMap(({ findings }) => findings(viewOf(now))));
        }
      }),
      { numRuns: 15 },
    );
  });

  it("resolves to the same plan, whatever was resolved before it", () => {
    fc.assert(
      fc.property(anyWork, ({ pattern, edits }) => {
        let now: Worked = { job: jobFromPattern(pattern), log: [] };
        for (const edit of edits) {
          now = worked(now, edit);
          const copy = structuredClone(now.job);
          const [kept, anew] = [resolve(now.job), resolve(copy)];
          expect(kept.links.map(({ ends }) => ends.map(({ device, port }) => [device?.id, port?.id]))).toEqual(
            anew.links.map(({ ends }) => ends.map(({ device, port }) => [device?.id, port?.id])),
          );
          expect(kept.inputs.map(({ clamp, kit }) => [clamp?.id, kit?.id])).toEqual(
            anew.inputs.map(({ clamp, kit }) => [clamp?.id, kit?.id]),
          );
          expect([kept.limit, kept.divert, kept.network]).toEqual([anew.limit, anew.divert, anew.network]);
        }
      }),
      { numRuns: 15 },
    );
  });

  it("parts its findings into open and accepted without losing one, and stops stay open", () => {
    fc.assert(
      fc.property(anyWork, (work) => {
        const state = after(work);
        const all = STAGES.flatMap(({ findings }) => findings(viewOf(state)));
        const { open, accepted } = sortFindings(all, state.job.accepted);
        expect(open.length + accepted.length).toBe(all.length);
        expect(accepted.some(({ finding }) => finding.severity === "stop")).toBe(false);
      }),
      { numRuns: 40 },
    );
  });

  it("is summed up in a line, and its log is found by what it says", () => {
    fc.assert(
      fc.property(anyWork, (work) => {
        const { job, log } = after(work);
        const summary = jobSummary({ ...job, tests: { ...job.tests, steps: [] } });
        expect([summary.next, summary.supply].join()).not.toMatch(FORGOTTEN);
        const lines = visitLog(log, [], []);
        expect(lines).toHaveLength(log.length);
        expect(searchLog(lines, "", "note", "").length).toBe(log.filter(({ kind }) => kind === "note").length);
      }),
      { numRuns: 40 },
    );
  });

  it("says its findings in both number styles, and differs in figures only", () => {
    fc.assert(
      fc.property(anyWork, (work) => {
        for (const { findings } of STAGES)
          for (const { detail, cure } of findings(viewOf(after(work))))
            for (const sentence of [detail, cure]) {
              const [point, comma] = (["point", "comma"] as const).map((decimal) =>
                shownText(sentence, { decimal, lengths: "metric" }),
              );
              expect(comma!.replaceAll(",", ".")).toBe(point!.replaceAll(",", "."));
            }
      }),
      { numRuns: 20 },
    );
  });
});
