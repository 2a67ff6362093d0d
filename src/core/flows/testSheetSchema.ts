import { z } from "zod";
import type { Problem } from "@/core/problem";
import { deviceProblems, deviceStateShape, powerWSchema } from "@/core/flows/stateSchema";
import { type Site } from "@/core/site/planSchema";
import { idSchema } from "@/core/names";
import { phasesOf, siteTree } from "@/core/site/tree";
import { text } from "@/core/text";

/** Steps of a test sheet at most. */
export const MAX_TEST_STEPS = 40;
const MAX_READINGS = 200;

/** What is known about one device in one step; `toleranceW` is the standard deviation of its power. */
export const knownDeviceShape = deviceStateShape.extend({
  toleranceW: z.number().min(0).max(1e9).default(0).describe("How far the power may be off, W"),
  afterW: powerWSchema
    .optional()
    .describe(
      "Its power after the last reading, W, where it was read again; then `powerW` is the one before the first",
    ),
});

/** One reading as it was seen, W in the input's own sign. */
export const seenReadingShape = z.object({
  meter: idSchema.describe("The meter"),
  input: z.int().min(1).max(99).describe("The input"),
  powerW: powerWSchema.describe("Power, W"),
  readAt: z.iso.datetime().optional().describe("When it was read"),
});

/** One step of a test sheet: what is on, and what was read. */
export const testStepShape = z.object({
  id: idSchema.optional().describe("Tells it from the others while it is changed"),
  label: text().trim().min(1, "say what is switched in this step").max(120).describe("What it is called"),
  devices: z.array(knownDeviceShape).max(200).default([]).describe("The devices that are known"),
  readings: z.array(seenReadingShape).max(MAX_READINGS).default([]).describe("What was read"),
  source: z
    .enum(["seen", "simulated"])
    .default("seen")
    .describe("Readings that were computed to try the page are never taken for ones that somebody saw"),
});

/**
 * A load that nobody can name: on each of its phases a real power N(meanW, sdW²) and a reactive one
 * N(0, sdVar²), the same in every step, plus a drift N(0, driftSdW²) of its own in each.
 */
export const backgroundShape = z.object({
  node: idSchema.describe("The device"),
  meanW: powerWSchema.default(400).describe("Mean, W"),
  sdW: z.number().min(0).max(1e9).default(500).describe("Spread, W"),
  sdVar: z.number().min(0).max(1e9).default(150).describe("Spread, var"),
  driftSdW: z.number().min(0).max(1e9).default(40).describe("Drift from step to step, W"),
});

/**
 * Standard deviation of a reading: √(absoluteW² + (relative · reading)²). Some noise is needed, or one digit too few
 * decides.
 */
export const noiseShape = z.object({
  absoluteW: z
    .number()
    .min(0.01, "a reading is never more exact than 0.01 W")
    .max(1e9)
    .default(8)
    .describe("In any case, W"),
  relative: z.number().min(0).max(1).default(0.01).describe("As a share of the reading"),
});

/** Test steps with what was seen, and the assumptions that a verdict rests on. */
export const testSheetShape = z.object({
  steps: z.array(testStepShape).max(MAX_TEST_STEPS).default([]).describe("The steps"),
  background: z.array(backgroundShape).max(50).optional().describe("What is assumed of loads that are not switched"),
  noise: noiseShape.default({ absoluteW: 8, relative: 0.01 }).describe("How far a reading is from what flows"),
  maxFaults: z.int().min(0).max(3).default(2).describe("How many faults at once are looked for"),
});

/** A device whose power in a step is known, W, within a tolerance. */
export type KnownDevice = z.output<typeof knownDeviceShape>;
/** One step of a test sheet. */
export type TestStep = z.output<typeof testStepShape>;
/** What a load draws by itself, W: mean, spread and drift. */
export type Background = z.output<typeof backgroundShape>;
/** How far a reading is from what flows, W and as a share. */
export type Noise = z.output<typeof noiseShape>;
/** The steps of a proof with what is assumed beside them. */
export type TestSheet = z.output<typeof testSheetShape>;

/** The background that is assumed when none is given: every plain load of the site, with the default spread. */
export function defaultBackground(site: Site): readonly Background[] {
  return site.nodes.filter((node) => node.kind === "load").map((node) => backgroundShape.parse({ node: node.id }));
}

/**
 * What in a test sheet does not fit the site: unknown devices and inputs, an input read twice in a step, a
 * background load that is unknown or listed twice. Paths are relative to the sheet.
 */
export function testSheetProblems(sheet: TestSheet, site: Site): readonly Problem[] {
  const inputs = new Set(
    site.meters.flatMap((meter) => meter.inputs.map((input) => JSON.stringify([meter.id, input.n]))),
  );
  const steps = sheet.steps.flatMap((step, at): readonly Problem[] => {
    const seen = new Set<string>();
    const readings = step.readings.flatMap((reading, index): Problem[] => {
      const key = JSON.stringify([reading.meter, reading.input]);
      const path = ["steps", at, "readings", index];
      if (!site.meters.some((meter) => meter.id === reading.meter)) {
        return [{ path: [...path, "meter"], message: `there is no meter "${reading.meter}"` }];
      }
      if (!inputs.has(key))
        return [{ path: [...path, "input"], message: `"${reading.meter}" has no input ${reading.input}` }];
      if (seen.has(key))
        return [{ path, message: `input ${reading.input} of "${reading.meter}" is read twice in this step` }];
      seen.add(key);
      return [];
    });
    return [
      ...[...deviceProblems(step.devices, site), ...afterProblems(step.devices)].map((problem) => ({
        ...problem,
        path: ["steps", at, "devices", ...problem.path],
      })),
      ...readings,
    ];
  });
  return [...steps, ...backgroundProblems(sheet.background ?? [], site)];
}

/** A power by phases has no single power after it. */
function afterProblems(devices: readonly KnownDevice[]): readonly Problem[] {
  return devices.flatMap(({ perPhase, afterW }, at): readonly Problem[] =>
    perPhase && afterW !== undefined
      ? [{ path: [at, "afterW"], message: "a power given by phases is not read before and after" }]
      : [],
  );
}

function backgroundProblems(background: readonly Background[], site: Site): readonly Problem[] {
  const { nodeById } = siteTree(site);
  const seen = new Set<string>();
  return background.flatMap((load, at): Problem[] => {
    const path = ["background", at, "node"];
    const node = nodeById.get(load.node);
    if (!node) return [{ path, message: `there is no node "${load.node}"` }];
    if (node.kind === "grid") return [{ path, message: "the grid is no load" }];
    if (seen.has(node.id)) return [{ path, message: `"${node.id}" is listed twice` }];
    seen.add(node.id);
    return phasesOf(node, site).length === 0 ? [{ path, message: `"${node.id}" has no phases` }] : [];
  });
}
