import { createElement } from "react";
import { renderToString } from "react-dom/server";
import { describe, expect, it, vi } from "vitest";
import type { Finding } from "@/core/findings";
import { jobSummary } from "@/core/jobSummary";
import { addEquipment } from "@/core/edits/editPlan";
import { kitSchema } from "@/core/kits/kitSchema";
import { kitValues } from "@/core/kits/kitValues";
import { readYaml } from "@/core/kits/readYaml";
import { patternSchema } from "@/core/patterns/patternSchema";
import { usualAnswers } from "@/core/patterns/patternAnswers";
import { planFromPattern } from "@/core/patterns/planFromPattern";
import { sortFindings } from "@/core/job/openFindings";
import { planFindings } from "@/core/job/planFindings";
import type * as planChecks from "@/core/job/planChecks";
import type * as stages from "@/core/stages";
import type * as wiringRules from "@/core/visit/rules/wiringRules";
import type { Check } from "@/core/plan/resolvedPlan";
import { resolve } from "@/core/plan/resolve";
import { said } from "@/core/sentence";
import { rememberedFindings, STAGES } from "@/core/stages";
import { materials } from "@/core/visit/materials";
import type { VisitRule } from "@/core/visit/visitRule";
import { visitSheet } from "@/core/visit/visitSheet";
import { FindingsDrawer } from "@/ui/workspace/frame/FindingsDrawer";
import { Spine } from "@/ui/workspace/frame/Spine";
import { JobWorkspace } from "@/ui/workspace/JobWorkspace";
import { jsonText } from "@/core/jsonText";
import { jobFromPattern, shippedKits, kitText } from "../fixtures/shipped";
import { viewOf } from "../fixtures/stageEdits";

// What a newcomer adds, each in the one place that ARCHITECTURE.md names.
const added = vi.hoisted(() => ({
  finding: {
    id: "sauna",
    code: "sauna",
    severity: "fix" as const,
    stage: "plan" as const,
    subject: { kind: "job" as const },
    title: "A sauna was forgotten",
    cure: "Add it to the plan",
    source: "A newcomer's check",
  },
}));

vi.mock("@/core/job/planChecks", async (original) => {
  const { PLAN_CHECKS } = await original<typeof planChecks>();
  const check: Check = ({ nodes }): readonly Finding[] => [
    { ...added.finding, detail: said`${nodes.length} devices, and no sauna.` },
  ];
  return { PLAN_CHECKS: [...PLAN_CHECKS, check] };
});

vi.mock("@/core/visit/rules/wiringRules", async (original) => {
  const { WIRING_RULES } = await original<typeof wiringRules>();
  const rule: VisitRule = {
    id: "count-glands",
    yields: ({ worked }) =>
      worked.slice(0, 1).map((device) => ({
        tag: "bond" as const,
        stage: "mount" as const,
        title: `Count the glands of ${device.name}`,
        place: device.place?.id,
        about: "glands",
        why: "One left open lets water in",
        activeMin: 1,
        source: "A newcomer's rule",
      })),
  };
  return { WIRING_RULES: [...WIRING_RULES, rule] };
});

vi.mock("@/core/stages", async (original) => {
  const whole = await original<typeof stages>();
  const stage = { id: "drill", name: "Drill", key: "x", from: () => [], findings: () => [], state: () => "not begun" };
  // A newcomer adds the id to the stages of findings as well; the compiler asks for it.
  return { ...whole, STAGES: [...whole.STAGES, stage as unknown as (typeof whole.STAGES)[number]] };
});

vi.mock("next/navigation", () => ({
  useSearchParams: () => new URLSearchParams(),
  usePathname: () => "/jobs/1/plan",
  useRouter: () => ({ push: () => undefined, refresh: () => undefined }),
}));

const job = jobFromPattern("export-controller");
const view = viewOf({ job, log: [] });

describe("what a newcomer adds in one place", () => {
  it("a check: its finding is in the plan's, is counted in the list of jobs, and shown in the drawer", () => {
    expect(planFindings(resolve(job)).map(({ code }) => code)).toContain("sauna");
    expect(rememberedFindings()(view).map(({ code }) => code)).toContain("sauna");
    expect(jobSummary(job).findings.fix).toBeGreaterThan(0);
    const page = renderToString(
      createElement(
        JobWorkspace,
        {
          job: jsonText({ id: "00000000-0000-4000-8000-000000000000", document: job, revision: 1, savedAt: "" }),
          library: jsonText(shippedKits()),
        } as Parameters<typeof JobWorkspace>[0],
        createElement(FindingsDrawer, {
          jobId: "1",
          findings: sortFindings(rememberedFindings()(view), []),
          onClose: () => undefined,
        }),
      ),
    );
    expect(page).toContain("A sauna was forgotten");
    expect(page).toContain(`${job.site.nodes.length} devices, and no sauna.`);
  });

  it("a step of a visit: it is in the sheet, behind what proves dead, with its words", () => {
    const { steps, findings } = visitSheet(job);
    const step = steps.find(({ title }) => title.startsWith("Count the glands of"));
    expect(step).toMatchObject({ why: "One left open lets water in", stage: "mount" });
    const gates = steps.filter(({ tag, place }) => tag === "prove-dead" && place === step!.place);
    expect(step!.needs.map((need) => need.step)).toEqual(expect.arrayContaining(gates.map(({ id }) => id)));
    expect(findings.filter(({ code }) => code === "visit-cycle")).toEqual([]);
  });

  it("a kit: a file is read, its values are listed, and it is planned and packed for", () => {
    const text = kitText("dongle-cellular").replace("id: dongle-cellular", "id: dongle-of-a-newcomer");
    const outcome = readYaml(text.replace(/^name: .*$/m, "name: Newcomer's module"), kitSchema);
    if (outcome.kind !== "ok") throw new Error(outcome.problems[0]?.message);
    expect(kitValues(outcome.value).length).toBeGreaterThan(5);
    const with_ = addEquipment("Module", outcome.value)(job);
    expect(resolve(with_).equipment.at(-1)?.kit?.name).toBe("Newcomer's module");
    expect(materials(with_).map((line) => line.text)).toContain("Newcomer's module");
  });

  it("a pattern: a file is read, and gives a plan that nothing stops", () => {
    const outcome = readYaml(
      `format: gormit-pattern
version: 1
id: newcomer
title: Newcomer's site
summary: A house with a meter on the grid.
watch: ["Nothing"]
supply: {systems: [single-phase], mainFuseA: 63}
places: [{id: hall, name: Hall, shelter: indoors}]
ways: []
nodes:
  - {id: board, kind: board, name: Board, place: hall, cableMm2: 16, cableOuterMm: 9}
  - {id: house, kind: load, name: House, fedFrom: board, nightW: 200}
meters:
  - id: meter
    name: Meter
    kit: meter-single-two-ct
    place: hall
    inputs: [{role: grid, runs: [board], clamp: ct-split-333mv-16mm, leadM: 2}]
`,
      patternSchema,
    );
    if (outcome.kind !== "ok") throw new Error(JSON.stringify(outcome.problems));
    const made = planFromPattern(outcome.value, usualAnswers(outcome.value), shippedKits());
    if (made.kind !== "job") throw new Error(JSON.stringify(made.problems));
    expect(planFindings(resolve(made.document)).filter(({ severity }) => severity === "stop")).toEqual([]);
  });

  it("a stage: the spine shows it with its state and leads to it", () => {
    expect(STAGES.map(({ name }) => name)).toContain("Drill");
    const spine = renderToString(createElement(Spine, { jobId: "1", view, findings: [] }));
    expect(spine).toContain("Drill");
    expect(spine).toContain("not begun");
    expect(spine).toContain("/jobs/1/drill");
  });
});
