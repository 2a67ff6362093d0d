import fc from "fast-check";
import { describe, expect, it, vi } from "vitest";
import { diagnosisCostMs } from "@/core/flows/diagnosisCost";
import { importJob } from "@/core/job/importJob";
import type { JobDocument } from "@/core/job/jobDocument";
import { jobSummary } from "@/core/jobSummary";
import { addNode } from "@/core/edits/editPlan";
import { labels } from "@/core/visit/labels";
import { materials } from "@/core/visit/materials";
import { anyRecipe, documentOf } from "../../../tests/fixtures/anyDocument";
import { jobFromPattern } from "../../../tests/fixtures/shipped";
import { stagePages } from "../../../tests/fixtures/stagePages";

const shown = vi.hoisted(() => ({ part: "" }));
vi.mock("next/navigation", () => ({
  useSearchParams: () => new URLSearchParams({ part: shown.part }),
  usePathname: () => "/jobs/1/plan",
  useRouter: () => ({ push: () => undefined, refresh: () => undefined }),
}));

/** Every stage with all its parts, as the server renders them. */
const pagesOf = (document: JobDocument) => stagePages(document, (part) => (shown.part = part));

describe("Whatever stands in a job", () => {
  it("has every part of every stage of a job from a pattern, each with something of its own", () => {
    const pages = pagesOf(jobFromPattern("energy-manager"));
    expect(new Set(pages).size).toBe(pages.length);
  });

  it("is shown by every part of every stage", () => {
    fc.assert(
      fc.property(anyRecipe, (recipe) => {
        const document = documentOf(recipe);
        for (const page of pagesOf(document)) expect(page).toMatch(/<\/main>|Opening /);
      }),
      { numRuns: 12 },
    );
  });

  it("is left to its browser where it is very large, and summed up without a verdict that would hold up others", () => {
    const small = jobFromPattern("energy-manager");
    const board = small.site.nodes.find(({ kind }) => kind === "board")!.id;
    const large = Array.from({ length: 90 }, (_, at) =>
      addNode({ kind: at % 2 === 0 ? "load" : "ev-charger", name: `Device ${at}`, fedFrom: board }),
    ).reduce<JobDocument>((job, add) => add(job), small);
    for (const page of pagesOf(large)) expect(page).toContain(`Opening ${large.job.name}`);
    const readings = large.site.meters.flatMap((meter) =>
      meter.inputs.map(({ n }) => ({ meter: meter.id, input: n, powerW: 1 })),
    );
    const steps = Array.from({ length: 20 }, (_, at) => ({
      label: `step ${at}`,
      source: "seen" as const,
      devices: [],
      readings,
    }));
    const summary = jobSummary({ ...large, tests: { ...large.tests, steps } });
    expect(summary.state).toBe("proving");
    expect(diagnosisCostMs(large.site, { ...large.tests, steps, maxFaults: 1 })).toBeGreaterThan(1_000);
  });

  it("is summed up, labelled, packed for, and comes back from its file", () => {
    fc.assert(
      fc.property(anyRecipe, (recipe) => {
        const document = documentOf(recipe);
        expect(jobSummary(document).next).not.toBe("");
        expect(labels(document, "2026-11-26")).toBeInstanceOf(Array);
        expect(materials(document)).toBeInstanceOf(Array);
        const outcome = importJob(JSON.stringify(document));
        expect(outcome.kind).toBe("job");
      }),
      { numRuns: 30 },
    );
  });
});
