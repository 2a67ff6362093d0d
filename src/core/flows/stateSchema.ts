import { z } from "zod";
import type { Problem } from "@/core/problem";
import { type Site } from "@/core/site/planSchema";
import { idSchema } from "@/core/names";
import { siteTree, phasesOf } from "@/core/site/tree";

const MAX_POWER_W = 1e9;

/** A power, W, far above any real site's. */
export const powerWSchema = z.number().min(-MAX_POWER_W).max(MAX_POWER_W);

const complexPowerSchema = z.object({
  powerW: powerWSchema.describe("Power, W"),
  reactiveVar: powerWSchema.default(0).describe("Reactive power, var"),
});

/**
 * What one device does, in the load convention: powerW > 0 consumes, < 0 generates; reactiveVar > 0 is
 * inductive. `perPhase` replaces the balanced split; then powerW may be left out.
 */
export const deviceStateShape = z.object({
  node: idSchema.describe("The device"),
  powerW: powerWSchema.default(0).describe("Power, W"),
  reactiveVar: powerWSchema.default(0).describe("Reactive power, var"),
  perPhase: z
    .partialRecord(z.enum(["L1", "L2", "L3"]), complexPowerSchema)
    .optional()
    .describe("The power of each phase"),
});

/** What is on: devices with their powers, the rest as it is. */
export const siteStateShape = z.object({
  devices: z.array(deviceStateShape).max(200).default([]).describe("The devices that are known"),
});

/** One device of a state, W and var by the load convention. */
export type DeviceState = z.output<typeof deviceStateShape>;
/** Which devices are on, and with what power. */
export type SiteState = z.output<typeof siteStateShape>;

/**
 * What in a list of device states does not fit the site: an unknown node, the grid, a node named twice,
 * a phase that the node lacks. Paths are relative to the list.
 */
export function deviceProblems(devices: readonly DeviceState[], site: Site): readonly Problem[] {
  const tree = siteTree(site);
  const seen = new Set<string>();
  return devices.flatMap((device, at): Problem[] => {
    const node = tree.nodeById.get(device.node);
    if (!node) return [{ path: [at, "node"], message: `there is no node "${device.node}"` }];
    if (node.kind === "grid")
      return [{ path: [at, "node"], message: "the grid balances what the devices do; it cannot be given a power" }];
    const problems: Problem[] = [];
    if (seen.has(node.id)) problems.push({ path: [at, "node"], message: `"${node.id}" is listed twice` });
    seen.add(node.id);
    for (const phase of ["L1", "L2", "L3"] as const) {
      if (device.perPhase?.[phase] && !phasesOf(node, site).includes(phase)) {
        problems.push({ path: [at, "perPhase", phase], message: `"${node.id}" has no ${phase}` });
      }
    }
    return problems;
  });
}
