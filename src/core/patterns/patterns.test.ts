import { describe, expect, it } from "vitest";
import { resolve } from "@/core/plan/resolve";
import { PLAN_BOARD, railBoard, SMALL_BOARD, WORKING_BOARD, type Box } from "@/core/board/railBoard";
import { predict } from "@/core/flows/predict";
import { statePresets } from "@/core/flows/statePresets";
import { importJob } from "@/core/job/importJob";
import { placeFindings } from "@/core/job/placeFindings";
import { planFindings } from "@/core/job/planFindings";
import { readYaml } from "@/core/kits/readYaml";
import { patternAnswersSchema, usualAnswers } from "@/core/patterns/patternAnswers";
import { presentPatternId } from "@/core/job/patternId";
import { patternSchema } from "@/core/patterns/patternSchema";
import { planFromPattern } from "@/core/patterns/planFromPattern";
import { materials } from "@/core/visit/materials";
import { jobFromPattern, shippedKits, shippedPatterns } from "../../../tests/fixtures/shipped";

const kits = shippedKits();
const patterns = shippedPatterns();

describe("the patterns that ship", () => {
  it("are named by what the site is", () => {
    expect(patterns.map((pattern) => pattern.id)).toEqual([
      "battery-of-another-maker",
      "bluetooth-set-up",
      "cascade-with-backup-box",
      "cascaded-logger",
      "cellular-shared-pair",
      "display-and-keys",
      "diverter-and-hub",
      "energy-manager",
      "export-controller",
      "hybrid-high-voltage",
      "local-monitor",
      "meter-on-second-pair",
      "metering-gateway",
      "outbuilding-radio-pair",
      "power-line-modules",
      "router-changed",
      "split-phase-backup",
      "three-phase-storage",
      "two-ct-add-on",
    ]);
  });

  describe.each(
    patterns.flatMap((pattern) => pattern.supply.systems.map((system) => [pattern.id, system, pattern] as const)),
  )("%s, %s", (_id, system, pattern) => {
    const outcome = planFromPattern(pattern, { ...usualAnswers(pattern), system }, kits);
    if (outcome.kind !== "job") throw new Error(outcome.problems.map((problem) => problem.message).join("; "));
    const { document } = outcome;

    it("asks only what its answers can hold, and gives a job that can be exported and imported whole", () => {
      expect(patternAnswersSchema.safeParse(usualAnswers(pattern)).success).toBe(true);
      expect(importJob(JSON.stringify(document))).toEqual({ kind: "job", document, questions: [] });
    });

    it("has a CT as planned on every input, and nothing to stop or to fix", () => {
      const inputs = document.site.meters.flatMap((meter) => meter.inputs);
      expect(inputs.length).toBeGreaterThan(0);
      expect(document.site.cts).toHaveLength(inputs.length);
      expect(
        [...planFindings(resolve(document)), ...placeFindings(resolve(document))].filter(
          (finding) => finding.severity !== "note",
        ),
      ).toEqual([]);
    });

    it("lays out on every board without collisions", () => {
      for (const sizes of [WORKING_BOARD, PLAN_BOARD, SMALL_BOARD]) {
        const layout = railBoard(document.site, sizes);
        const solid = [
          ...layout.nodes.map((drawn) => drawn.box),
          ...layout.clips.flatMap((clip) => (clip.tag ? [clip.box, clip.tag] : [clip.box])),
        ];
        expect(collisions(solid)).toBe(0);
        expect(collisions(layout.rails.map((rail) => rail.strip))).toBe(0);
      }
    });

    it("predicts, in every state, the same as fitted as planned, and adds up at the supply", () => {
      for (const { state } of statePresets(document.site)) {
        const fitted = predict(document.site, "fitted", state);
        expect(fitted.findings).toEqual([]);
        expect(fitted.inputs).toEqual(predict(document.site, "planned", state).inputs);
        const gridInputs = document.site.meters.flatMap((meter) =>
          meter.inputs
            .filter((input) => input.role === "grid" && !input.of)
            .map((input) => ({ meter: meter.id, input })),
        );
        const perMeter = new Map<string, number>();
        for (const { meter, input } of gridInputs) {
          const reading = fitted.inputs.find(
            (candidate) => candidate.meter === meter && candidate.input === input.n,
          )!.powerW;
          perMeter.set(meter, (perMeter.get(meter) ?? 0) + (input.positive === "to-load" ? reading : -reading));
        }
        const total = state.devices.reduce((sum, device) => sum + device.powerW, 0);
        for (const sum of perMeter.values()) expect(sum).toBeCloseTo(total, 3);
      }
    });

    it("says what to bring", () => {
      expect(materials(document).length).toBeGreaterThan(8);
    });
  });
});

describe("planFromPattern", () => {
  it("leaves out what is not there, and hangs what it fed from what fed it", () => {
    const pattern = patterns.find(({ id }) => id === "cascade-with-backup-box")!;
    const answers = usualAnswers(pattern);
    const without = planFromPattern(
      pattern,
      { ...answers, devices: [...answers.devices, { id: "box", present: false, existing: false }] },
      kits,
    );
    if (without.kind !== "job") throw new Error("it is possible");
    expect(without.document.site.nodes.some((node) => node.id === "box")).toBe(false);
    expect(without.document.site.nodes.find((node) => node.id === "hybrid")?.fedFrom).toBe("board");
  });

  it("drops the inputs of a meter whose device is not there", () => {
    const answers = usualAnswers(patterns.find(({ id }) => id === "diverter-and-hub")!);
    const job = jobFromPattern("diverter-and-hub", {
      devices: answers.devices.map((device) => (device.id === "battery" ? { ...device, present: false } : device)),
    });
    expect(job.site.meters.map((meter) => meter.id)).toEqual(["hub"]);
  });

  it("measures inside up to the kit's current and with CTs above it", () => {
    expect(
      jobFromPattern("energy-manager").site.meters[0]!.inputs.every((input) => input.builtIn && input.primaryA === 80),
    ).toBe(true);
    const large = jobFromPattern("energy-manager", { mainFuseA: 160 });
    expect(large.site.meters[0]!.inputs.every((input) => !input.builtIn && input.primaryA === 200)).toBe(true);
    expect(planFindings(resolve(large)).filter((finding) => finding.severity === "stop")).toEqual([]);
  });

  it("puts a device on the phase that was answered, and sizes CTs by the answers", () => {
    const answers = usualAnswers(patterns.find(({ id }) => id === "energy-manager")!);
    const job = jobFromPattern("energy-manager", {
      devices: answers.devices.map((device) =>
        device.id === "battery-1" ? { ...device, phase: "L3" as const } : device,
      ),
    });
    expect(job.site.nodes.find((node) => node.id === "battery-1")?.phases).toEqual(["L3"]);
    expect(jobFromPattern("export-controller", { mainFuseA: 400 }).site.meters[0]!.inputs[0]!.primaryA).toBe(400);
  });

  it("refuses a supply that the pattern is not for, and a kit that the library has not", () => {
    const pattern = patterns[0]!;
    expect(planFromPattern(pattern, { ...usualAnswers(pattern), system: "three-phase" }, kits)).toMatchObject({
      kind: "not-possible",
      problems: [{ path: ["system"] }],
    });
    expect(planFromPattern(pattern, usualAnswers(pattern), []).kind).toBe("not-possible");
  });
});

describe("presentPatternId", () => {
  it("gives each name of before one that ships, and leaves the names of now", () => {
    const former = Array.from({ length: patterns.length }, (_, at) => `S${String(at + 1).padStart(2, "0")}`);
    expect(former.map(presentPatternId).toSorted()).toEqual(patterns.map(({ id }) => id));
    for (const { id } of patterns) expect(presentPatternId(id)).toBe(id);
    expect(presentPatternId("constructor")).toBe("constructor");
  });

  it("is what an answer to a pattern of before becomes", () => {
    const answers = usualAnswers(patterns.find(({ id }) => id === "export-controller")!);
    expect(patternAnswersSchema.parse({ ...answers, pattern: "S17" })).toEqual(answers);
    expect(patternAnswersSchema.safeParse({ ...answers, pattern: "7" }).success).toBe(false);
  });
});

describe("patternSchema", () => {
  it("names places, feeders and runs that are not there", () => {
    const outcome = readYaml(
      `
format: gormit-pattern
version: 1
id: bad
title: Bad
summary: Bad
supply: {systems: [single-phase], mainFuseA: 63}
places: [{id: hall, name: Hall, shelter: indoors}]
ways: [{from: hall, to: moon, walkMin: 1}]
nodes: [{id: board, kind: board, name: Board, fedFrom: nowhere, place: cellar}]
meters: [{id: m, name: M, kit: meter-single-two-ct, inputs: [{role: grid, runs: [roof]}]}]
`,
      patternSchema,
    );
    expect(outcome.kind === "bad-file" && outcome.problems.map(({ line, path }) => [line, path.join(".")])).toEqual([
      [9, "ways.0.to"],
      [10, "nodes.0.place"],
      [10, "nodes.0.fedFrom"],
      [11, "meters.0.inputs.0.runs.0"],
    ]);
  });
});

function collisions(boxes: readonly Box[]): number {
  const apart = (a: Box, b: Box) =>
    a.x + a.width <= b.x + 1e-6 ||
    b.x + b.width <= a.x + 1e-6 ||
    a.y + a.height <= b.y + 1e-6 ||
    b.y + b.height <= a.y + 1e-6;
  return boxes.flatMap((a, at) => boxes.slice(at + 1).filter((b) => !apart(a, b))).length;
}
