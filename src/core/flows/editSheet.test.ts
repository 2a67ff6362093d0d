import { describe, expect, it } from "vitest";
import { addBlankStep, addTest, changeStep, isAllSeen, repeatStep, setReading } from "@/core/flows/editSheet";
import type { NextTest } from "@/core/flows/nextTests";
import { simulateSeen } from "@/core/flows/simulateSeen";
import { siteSchema } from "@/core/site/siteSchema";
import { houseSite, usualSheet } from "../../../tests/fixtures/sites";

const site = houseSite("three-phase");
const sheet = usualSheet(site);
const input = { meter: "m1", input: 2 };

describe("editing a test sheet", () => {
  it("writes a reading down once, changes it in place, and takes it out", () => {
    const once = setReading(setReading(sheet, 1, { meter: "m1", input: 1 }, 5), 1, input, 100);
    const again = setReading(once, 1, input, 120);
    expect(again.steps[1]!.readings).toEqual([
      { meter: "m1", input: 1, powerW: 5 },
      { ...input, powerW: 120 },
    ]);
    expect(setReading(again, 1, input, undefined).steps[1]!.readings).toHaveLength(1);
    expect(setReading(sheet, 1, input, undefined)).toBe(sheet);
    expect(setReading(sheet, 99, input, 1)).toBe(sheet);
  });

  it("takes a typed reading in a simulated step for one that was seen", () => {
    const simulated = { ...sheet, steps: simulateSeen(site, sheet, () => 0) };
    expect(isAllSeen(simulated)).toBe(false);
    expect(setReading(simulated, 0, input, 7).steps[0]!.source).toBe("seen");
    expect(isAllSeen(sheet)).toBe(true);
  });

  it("adds a proposed test as a step without readings", () => {
    const test: NextTest = {
      label: "Kettle",
      node: "kettleL2",
      phase: "L2",
      powerW: 2000,
      gainBits: 1,
      settles: 1,
      why: "",
      devices: [{ node: "kettleL2", powerW: 2000, reactiveVar: 0, toleranceW: 100 }],
    };
    const added = addTest({ site, tests: sheet }, test, "s9");
    expect(added.site).toBe(site);
    expect(added.tests.steps.at(-1)).toMatchObject({ label: "Kettle", readings: [] });
  });

  it("adds the load that a proposed test needs and the plan lacks, beside the house", () => {
    const bare = siteSchema.parse({ ...site, nodes: site.nodes.filter((node) => node.kind !== "test-load") });
    const test: NextTest = {
      label: "Load on L3",
      node: null,
      phase: "L3",
      powerW: 2000,
      gainBits: 1,
      settles: 1,
      why: "",
      devices: [],
    };
    const added = addTest({ site: bare, tests: sheet }, test, "s9");
    expect(added.site.nodes.at(-1)).toMatchObject({
      id: "test-l3",
      kind: "test-load",
      fedFrom: "board",
      phases: ["L3"],
    });
    expect(siteSchema.safeParse(added.site).success).toBe(true);
    expect(added.tests.steps.at(-1)!.devices).toEqual([
      { node: "test-l3", powerW: 2000, reactiveVar: 0, toleranceW: 100 },
    ]);
    expect(addTest(added, test, "s10").site.nodes.at(-1)!.id).toBe("test-l3-2");
  });

  it("adds a step of one's own at the end, and the same step once more with nothing read in it", () => {
    const blank = addBlankStep(sheet, "own");
    expect(blank.steps).toEqual([
      ...sheet.steps,
      { id: "own", label: `Step ${sheet.steps.length + 1}`, devices: [], readings: [], source: "seen" },
    ]);
    const read = setReading(sheet, 1, input, 120);
    const repeated = repeatStep(read, 1, "again");
    expect(repeated.steps.map(({ label }) => label)).toEqual([
      ...sheet.steps.slice(0, 2).map(({ label }) => label),
      sheet.steps[1]!.label,
      ...sheet.steps.slice(2).map(({ label }) => label),
    ]);
    expect(repeated.steps[2]).toEqual({ ...read.steps[1], id: "again", readings: [] });
    expect(repeatStep(sheet, 42, "again")).toBe(sheet);
  });

  it("leaves a sheet alone when told to change a step that is not there", () => {
    expect(changeStep(sheet, 42, { label: "x" })).toBe(sheet);
  });
});

describe("simulateSeen", () => {
  it("reads the example of its docblock with every draw zero", () => {
    const single = houseSite("single-phase");
    const steps = simulateSeen(single, usualSheet(single), () => 0);
    expect(steps[1]!.readings).toEqual([{ meter: "m1", input: 1, powerW: 2400 }]);
    expect(steps[1]!.source).toBe("simulated");
  });

  it("reads what is fitted, not what is planned", () => {
    const turned = { ...site, cts: site.cts.map((ct, at) => (at === 0 ? { ...ct, arrow: "to-grid" as const } : ct)) };
    expect(simulateSeen(turned, sheet, () => 0)[0]!.readings[0]!.powerW).toBe(-400);
  });
});
