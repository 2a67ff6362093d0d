import type { DeviceState, SiteState } from "@/core/flows/stateSchema";
import type { NodeKind, Site, SiteNode } from "@/core/site/planSchema";
import { phasesOf } from "@/core/site/tree";

/** What a house draws on each phase when nobody is doing anything. */
const RESTING_LOAD_W_PER_PHASE = 300;
const USUAL_RATED_W = 3000;
const SUN_SHARE = 0.6;

/** A state of the site that is worth looking at. */
export interface StatePreset {
  readonly id: string;
  readonly label: string;
  readonly state: SiteState;
}

/**
 * The states that this site can be looked at in: night, sun, each test load, each battery charging and
 * discharging, generator. Only those that its devices allow.
 *
 * For example: A site with a house and solar: Night (loads only) and Sun (solar at 60 % of its rating).
 */
export function statePresets(site: Site): readonly StatePreset[] {
  const resting = site.nodes
    .filter((node) => node.kind === "load")
    .map((node) => at(node, RESTING_LOAD_W_PER_PHASE * phasesOf(node, site).length));
  const of = (...kinds: NodeKind[]) => site.nodes.filter((node) => kinds.includes(node.kind));
  const with_ = (nodes: readonly SiteNode[], share: number): SiteState => ({
    devices: [...resting, ...nodes.map((node) => at(node, share * ratedW(node)))],
  });
  const solar = of("pv-inverter", "hybrid-inverter");
  return [
    { id: "night", label: "Night", state: { devices: resting } },
    ...(solar.length > 0 ? [{ id: "sun", label: "Sun", state: with_(solar, -SUN_SHARE) }] : []),
    ...of("test-load").map((node) => ({ id: `on:${node.id}`, label: `${node.name} on`, state: with_([node], 1) })),
    ...of("battery-inverter", "hybrid-inverter").flatMap((node) => [
      { id: `charging:${node.id}`, label: `${node.name} charging`, state: with_([node], SUN_SHARE) },
      { id: `discharging:${node.id}`, label: `${node.name} discharging`, state: with_([node], -SUN_SHARE) },
    ]),
    ...of("diverter", "ev-charger", "heat-pump").map((node) => ({
      id: `on:${node.id}`,
      label: `${node.name} on`,
      state: with_([node], 1),
    })),
    ...of("generator").map((node) => ({
      id: `running:${node.id}`,
      label: `${node.name} running`,
      state: with_([node], -SUN_SHARE),
    })),
  ];
}

/** How far a device's slider reaches each way, W in the load convention. */
export function powerRangeW(node: SiteNode): { readonly min: number; readonly max: number } {
  const rated = ratedW(node);
  switch (node.kind) {
    case "pv-inverter":
    case "generator":
      return { min: -rated, max: 0 };
    case "battery-inverter":
    case "hybrid-inverter":
      return { min: -rated, max: rated };
    case "load":
      return { min: 0, max: Math.max(rated, 6000) };
    default:
      return { min: 0, max: rated };
  }
}

function ratedW(node: SiteNode): number {
  return node.ratedW ?? USUAL_RATED_W;
}

function at(node: SiteNode, powerW: number): DeviceState {
  return { node: node.id, powerW: Math.round(powerW), reactiveVar: 0 };
}
