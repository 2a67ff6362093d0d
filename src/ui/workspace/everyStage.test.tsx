import fc from "fast-check";
import { renderToString } from "react-dom/server";
import type { ReactNode } from "react";
import { describe, expect, it, vi } from "vitest";
import { diagnosisCostMs } from "@/core/flows/diagnosisCost";
import { importJob } from "@/core/job/importJob";
import { jsonText } from "@/core/jsonText";
import type { JobDocument } from "@/core/job/jobDocument";
import { jobSummary } from "@/core/jobSummary";
import { addNode } from "@/core/edits/editPlan";
import { labels } from "@/core/visit/labels";
import { materials } from "@/core/visit/materials";
import { BenchStage } from "@/ui/bench/BenchStage";
import { DivertStage } from "@/ui/divert/DivertStage";
import { HandoverStage } from "@/ui/handover/HandoverStage";
import { LimitStage } from "@/ui/limit/LimitStage";
import { OnlineStage } from "@/ui/online/OnlineStage";
import { PlaceStage } from "@/ui/place/PlaceStage";
import { BringList } from "@/ui/plan/BringList";
import { LabelSheets } from "@/ui/plan/LabelSheets";
import { PlacesEditor } from "@/ui/plan/PlacesEditor";
import { PlanStage } from "@/ui/plan/PlanStage";
import { usePlan } from "@/ui/plan/usePlan";
import { ProveStage } from "@/ui/prove/ProveStage";
import { VisitStage } from "@/ui/visit/VisitStage";
import { WireStage } from "@/ui/wire/WireStage";
import { JobWorkspace } from "@/ui/workspace/JobWorkspace";
import { useJob } from "@/ui/workspace/workspaceContext";
import { anyRecipe, documentOf } from "../../../tests/fixtures/anyDocument";
import { jobFromPattern, shippedKits } from "../../../tests/fixtures/shipped";

const shown = vi.hoisted(() => ({ part: "" }));
vi.mock("next/navigation", () => ({
  useSearchParams: () => new URLSearchParams({ part: shown.part }),
  usePathname: () => "/jobs/1/plan",
  useRouter: () => ({ push: () => undefined, refresh: () => undefined }),
}));

const STAGES: Readonly<Record<string, { readonly stage: () => ReactNode; readonly parts: readonly string[] }>> = {
  plan: { stage: () => <PlanStage start={undefined} />, parts: [""] },
  meters: { stage: () => <FirstInput />, parts: [""] },
  planParts: { stage: () => <PlanParts />, parts: [""] },
  place: { stage: () => <PlaceStage start={undefined} />, parts: [""] },
  wire: { stage: () => <WireStage />, parts: ["links", "wiring", "timing", "addresses", "meter", "can-log", "lead"] },
  visit: { stage: () => <VisitStage step={undefined} />, parts: ["now", "sheet", "schedule", "log"] },
  prove: { stage: () => <ProveStage />, parts: [""] },
  limit: { stage: () => <LimitStage />, parts: ["settings", "hold", "proof"] },
  divert: { stage: () => <DivertStage />, parts: ["day", "year", "sees", "hunt"] },
  online: { stage: () => <OnlineStage />, parts: ["break", "set-up", "before"] },
  handover: { stage: () => <HandoverStage />, parts: ["proof", "report", "register", "transfer", "deadlines"] },
  bench: { stage: () => <BenchStage />, parts: [] },
};

/** The first input of the plan as it is picked on the board. */
function FirstInput() {
  const [meter] = useJob().document.site.meters;
  return meter ? <PlanStage start={{ kind: "input", meter: meter.id, input: meter.inputs[0]!.n }} /> : <p>no meter</p>;
}

/** The parts of Plan that are behind a tab. */
function PlanParts() {
  const plan = usePlan(undefined);
  return (
    <>
      <PlacesEditor plan={plan} />
      <BringList plan={plan} />
      <LabelSheets plan={plan} />
    </>
  );
}

const library = jsonText(shippedKits());

/** Every stage with all its parts, as the server renders them. */
function pagesOf(document: JobDocument): readonly string[] {
  return Object.values(STAGES).flatMap(({ stage, parts }) =>
    parts.map((part) => {
      shown.part = part;
      return renderToString(
        <JobWorkspace
          job={jsonText({
            id: "00000000-0000-4000-8000-000000000000",
            document,
            revision: 1,
            savedAt: "2026-11-26T08:00:00.000Z",
          })}
          library={library}
        >
          {stage()}
        </JobWorkspace>,
      );
    }),
  );
}

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
      { numRuns: 30 },
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
