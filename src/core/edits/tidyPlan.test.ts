import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { tidyPlan } from "@/core/edits/tidyPlan";
import { jobDocumentSchema, type JobDocument } from "@/core/job/jobDocument";
import { planProblems } from "@/core/site/planProblems";
import type { Site } from "@/core/site/planSchema";
import { demoDocument } from "../../../tests/fixtures/demoDocument";
import { jobFromPattern, shippedPatterns } from "../../../tests/fixtures/shipped";

const anyJob = fc.constantFrom(...shippedPatterns().map(({ id }) => id)).map((id) => jobFromPattern(id));
const withSite = (job: JobDocument, change: Partial<Site>): JobDocument => ({
  ...job,
  site: { ...job.site, ...change },
});

/** The job with some of its nodes torn out, and nothing else done about it. */
function torn(job: JobDocument, which: readonly number[]): JobDocument {
  const own = job.site.nodes.filter(({ kind }) => kind !== "grid");
  const gone = new Set(which.map((at) => own[at % own.length]?.id));
  return withSite(job, { nodes: job.site.nodes.filter(({ id }) => !gone.has(id)) });
}

describe("A plan made to hang together again", () => {
  it("is the same where it did", () => {
    fc.assert(
      fc.property(anyJob, (job) => {
        expect(tidyPlan(job, job)).toEqual(job);
      }),
    );
  });

  it("has no problem left whichever nodes are torn out, and tidied once it stays", () => {
    fc.assert(
      fc.property(anyJob, fc.array(fc.nat(40), { minLength: 1, maxLength: 5 }), (job, which) => {
        const tidied = tidyPlan(job, torn(job, which));
        expect(planProblems(tidied.site)).toEqual([]);
        expect(jobDocumentSchema.safeParse(tidied).success).toBe(true);
        expect(tidyPlan(tidied, tidied)).toEqual(tidied);
      }),
    );
  });

  it("speaks of nothing that is gone: no link, no test step, no string, no kit", () => {
    fc.assert(
      fc.property(
        fc.constantFrom("tollgate-cottage", "brindle-dairy"),
        fc.array(fc.nat(40), { minLength: 1 }),
        (demo, which) => {
          const job = demoDocument(demo);
          const { site, links, tests, visit, kits } = tidyPlan(job, torn(job, which));
          const items = new Set([...site.nodes, ...site.meters, ...site.equipment].map(({ id }) => id));
          for (const link of links) for (const { item } of link.members) expect(items).toContain(item);
          for (const { device } of visit.strings) expect(items).toContain(device);
          for (const step of tests.steps) {
            for (const { node } of step.devices) expect(items).toContain(node);
            for (const { meter } of step.readings) expect(items).toContain(meter);
          }
          const named = JSON.stringify([site.nodes, site.meters, site.equipment]);
          for (const { id } of kits) expect(named).toContain(`"${id}"`);
        },
      ),
      { numRuns: 40 },
    );
  });

  it("hangs what was fed by something that went from what fed that", () => {
    const job = jobFromPattern("energy-manager");
    const board = job.site.nodes.find(({ kind }) => kind === "board")!;
    const below = job.site.nodes.filter(({ fedFrom }) => fedFrom === board.id).map(({ id }) => id);
    expect(below.length).toBeGreaterThan(0);
    const { site } = tidyPlan(job, withSite(job, { nodes: job.site.nodes.filter(({ id }) => id !== board.id) }));
    for (const id of below) expect(site.nodes.find((node) => node.id === id)?.fedFrom).toBe(board.fedFrom);
  });

  it("hangs a circle from the supply, where it can be measured again", () => {
    const job = jobFromPattern("energy-manager");
    const [first, second] = job.site.nodes.filter(({ kind }) => kind !== "grid" && kind !== "board");
    const nodes = job.site.nodes.map((node) =>
      node.id === first!.id
        ? { ...node, fedFrom: second!.id }
        : node.id === second!.id
          ? { ...node, fedFrom: first!.id }
          : node,
    );
    const { site } = tidyPlan(job, withSite(job, { nodes }));
    expect(planProblems(site)).toEqual([]);
    const grid = site.nodes.find(({ kind }) => kind === "grid")!.id;
    expect(
      site.nodes.filter(({ id }) => [first!.id, second!.id].includes(id)).some(({ fedFrom }) => fedFrom === grid),
    ).toBe(true);
  });

  it("brings everything onto the phases that a smaller supply has", () => {
    fc.assert(
      fc.property(anyJob, fc.constantFrom("single-phase" as const, "split-phase" as const), (job, system) => {
        const { site } = tidyPlan(job, withSite(job, { supply: { ...job.site.supply, system } }));
        const offered = system === "single-phase" ? ["L1"] : ["L1", "L2"];
        for (const { phases = [] } of site.nodes) for (const phase of phases) expect(offered).toContain(phase);
        for (const { taps } of site.meters) for (const phase of Object.values(taps)) expect(offered).toContain(phase);
        expect(planProblems(site)).toEqual([]);
      }),
    );
  });

  it("forgets a place that is gone, and the ways to it, but nothing that stood there", () => {
    const job = demoDocument("fennel-court");
    const [gone] = job.site.places;
    const stood = job.site.nodes.filter(({ place }) => place === gone!.id).map(({ id }) => id);
    const { site } = tidyPlan(job, withSite(job, { places: job.site.places.slice(1) }));
    expect(stood.length).toBeGreaterThan(0);
    for (const id of stood) expect(site.nodes.find((node) => node.id === id)).toBeDefined();
    expect(JSON.stringify([site.nodes, site.meters, site.equipment, site.ways])).not.toContain(`"place":"${gone!.id}"`);
    expect(site.ways.every(({ from, to }) => from !== gone!.id && to !== gone!.id)).toBe(true);
  });
});
