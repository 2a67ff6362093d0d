import { z } from "zod";
import type { Problem } from "@/core/problem";
import { deviceProblems, deviceStateShape, powerWSchema } from "@/core/flows/stateSchema";
import { type Site } from "@/core/site/planSchema";
import { idSchema } from "@/core/names";
import { phasesOf, siteTree } from "@/core/site/tree";
import { text } from "@/core/text";

const MAX_STEPS = 40;
const MAX_READINGS = 200;

/** What is known about one device in one step; `toleranceW` is the standard deviation of its power. */
export const knownDeviceShape = deviceStateShape.extend({
  toleranceW: z.number().min(0).max(1e9).default(0),
});

export const seenReadingShape = z.object({ meter: idSchema, input: z.int().min(1).max(99), powerW: powerWSchema });

export const testStepShape = z.object({
  label: text().trim().min(1, "say what is switched in this step").max(120),
  devices: z.array(knownDeviceShape).max(200).default([]),
  readings: z.array(seenReadingShape).max(MAX_READINGS).default([]),
  /** Readings that were computed to try the page are never taken for ones that somebody saw. */
  source: z.enum(["seen", "simulated"]).default("seen"),
});

/**
 * A load that nobody can name: on each of its phases a real power N(meanW, sdW²) and a reactive one
 * N(0, sdVar²), the same in every step, plus a drift N(0, driftSdW²) of its own in each.
 */
export const backgroundShape = z.object({
  node: idSchema,
  meanW: powerWSchema.default(400),
  sdW: z.number().min(0).max(1e9).default(500),
  sdVar: z.number().min(0).max(1e9).default(150),
  driftSdW: z.number().min(0).max(1e9).default(40),
});

/**
 * Standard deviation of a reading: √(absoluteW² + (relative · reading)²). Some noise is needed, or one digit too few
 * decides.
 */
export const noiseShape = z.object({
  absoluteW: z.number().min(0.01, "a reading is never more exact than 0.01 W").max(1e9).default(8),
  relative: z.number().min(0).max(1).default(0.01),
});

/** Test steps with what was seen, and the assumptions that a verdict rests on. */
export const testSheetShape = z.object({
  steps: z.array(testStepShape).max(MAX_STEPS).default([]),
  background: z.array(backgroundShape).max(50).optional(),
  noise: noiseShape.default({ absoluteW: 8, relative: 0.01 }),
  maxFaults: z.int().min(0).max(3).default(2),
});

export type KnownDevice = z.output<typeof knownDeviceShape>;
export type TestStep = z.output<typeof testStepShape>;
export type Background = z.output<typeof backgroundShape>;
export type Noise = z.output<typeof noiseShape>;
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
      ...deviceProblems(step.devices, site).map((problem) => ({
        ...problem,
        path: ["steps", at, "devices", ...problem.path],
      })),
      ...readings,
    ];
  });
  return [...steps, ...backgroundProblems(sheet.background ?? [], site)];
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
