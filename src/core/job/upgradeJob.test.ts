import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { resolve } from "@/core/plan/resolve";
import { importJob } from "@/core/job/importJob";
import { planFindings } from "@/core/job/planFindings";
import type { JobDocument } from "@/core/job/jobDocument";
import { upgradeJob } from "@/core/job/upgradeJob";
import { storedJobSchema } from "@/core/job/storedJob";
import { visitSheet } from "@/core/visit/visitSheet";
import { visitSettingsSchema } from "@/core/plan/visitSettings";
import { changeMeter } from "@/core/edits/editPlan";
import { jobFromPattern, shippedPatterns } from "../../../tests/fixtures/shipped";

/** A job as the first version of the format had it. */
function first(job: JobDocument): Record<string, unknown> {
  return {
    ...second(job),
    version: 1,
    site: { ...job.site, meters: job.site.meters.map(({ partOf: _partOf, ...meter }) => meter) },
  };
}

/** A job as the second version of the format had it. */
function second({ visit, ...job }: JobDocument): Record<string, unknown> {
  return { ...job, version: 2, run: visit };
}

/** Two hybrids of one kit, each with its own CT of another ratio. */
function twins(): JobDocument {
  const job = jobFromPattern("hybrid-high-voltage");
  const hybrid = job.site.nodes.find(({ kind }) => kind === "hybrid-inverter")!;
  const [own] = job.site.meters;
  const barn = { id: "barn", name: "Barn", shelter: "indoors" as const };
  const second = {
    ...own!,
    id: "second-ct",
    name: "Second's own CT",
    partOf: "second",
    inputs: own!.inputs.map((input) => ({ ...input, primaryA: 150 })),
  };
  return {
    ...job,
    links: [],
    site: {
      ...job.site,
      places: [...job.site.places, barn],
      nodes: [...job.site.nodes, { ...hybrid, id: "second", name: "Second hybrid", place: "barn" }],
      meters: [...job.site.meters, { ...second, place: "barn" }],
    },
  };
}

describe("upgradeJob", () => {
  it("gives the pattern that a job was made from the name that it has now, and nothing else another", () => {
    const now = jobFromPattern("hybrid-high-voltage");
    const then = { ...now, job: { ...now.job, pattern: "S02" } };
    expect(upgradeJob(then)).toEqual({ document: now, questions: [] });
    expect(upgradeJob(now).document).toBe(now);
  });

  it.each(shippedPatterns().map(({ id }) => id))("gives the job of %s back as it is now", (id) => {
    const job = jobFromPattern(id);
    const outcome = importJob(JSON.stringify(first(job)));
    expect(outcome).toEqual({ kind: "job", document: job, questions: [] });
    expect(storedJobSchema.parse(first(job))).toEqual(job);
  });

  it.each(shippedPatterns().map(({ id }) => id))("takes the visit of %s from where version 2 had it", (id) => {
    const job = { ...jobFromPattern(id), visit: visitSettingsSchema.parse({ technicians: 2, setUpBy: "web-page" }) };
    expect(importJob(JSON.stringify(second(job)))).toEqual({ kind: "job", document: job, questions: [] });
    expect(storedJobSchema.parse(second(job))).toEqual(job);
  });

  it("tells two devices of one kit apart by their places", () => {
    const { document, questions } = upgradeJob(first(twins()));
    expect(questions).toEqual([]);
    expect((document as JobDocument).site.meters.map(({ partOf }) => partOf)).toEqual(["hybrid", "second"]);
  });

  it("leaves open what it cannot tell, asks, and finds it in the plan until somebody says", () => {
    const job = twins();
    const here = {
      ...job,
      site: {
        ...job.site,
        nodes: job.site.nodes.map((node) =>
          node.id === "second" ? { ...node, place: job.site.nodes.find(({ id }) => id === "hybrid")!.place } : node,
        ),
        meters: job.site.meters.map((meter) => ({ ...meter, place: undefined })),
      },
    };
    const outcome = importJob(JSON.stringify(first(here)));
    if (outcome.kind !== "job") throw new Error(JSON.stringify(outcome.problems));
    expect(outcome.questions).toHaveLength(2);
    const open = (document: JobDocument) =>
      planFindings(resolve(document))
        .filter(({ code }) => code === "whose-meter")
        .map(({ subject }) => "meter" in subject && subject.meter);
    expect(open(outcome.document)).toEqual(["own-ct", "second-ct"]);
    const said = changeMeter("own-ct", { partOf: "hybrid" })(outcome.document);
    expect(open(said)).toEqual(["second-ct"]);
    expect(open(changeMeter("second-ct", { partOf: null })(said))).toEqual([]);
  });

  it("tells each of two devices of one kit its own ratio", () => {
    const job = twins();
    const typed = (about: string) =>
      visitSheet(job)
        .steps.find((step) => step.tag === "configure" && step.about === about)!
        .content.filter(({ label }) => label.startsWith("Eye amperes"))
        .map(({ value }) => value);
    expect(typed("hybrid")).toHaveLength(1);
    expect(typed("second")).toHaveLength(1);
    expect(typed("second")).not.toEqual(typed("hybrid"));
    expect(typed("second")[0]).toContain("150");
  });

  it("lets pass whatever is no job of an earlier version, and throws at nothing", () => {
    fc.assert(
      fc.property(fc.oneof(fc.jsonValue(), fc.record({ version: fc.constant(1), site: fc.jsonValue() })), (raw) => {
        const { document } = upgradeJob(raw);
        expect(storedJobSchema.safeParse(raw).success).toBe(false);
        if (typeof raw !== "object" || raw === null || !("version" in raw) || raw.version !== 1)
          expect(document).toBe(raw);
      }),
    );
  });
});
