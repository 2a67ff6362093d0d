import type { Conductor, NodeKind, SensingRole, Site, SiteNode, WindowEntry } from "@/core/site/planSchema";
import { phasesOf, siteTree, type SiteTree } from "@/core/site/tree";
import { joined } from "@/core/words";

/** How the sum that a run (or several) holds differs from the sum that a role asks for. Empty lists: it is right. */
export interface RoleMismatch {
  /** Devices that the role asks for and that the sum does not hold. */
  readonly missed: readonly SiteNode[];
  /** Devices that the sum holds and that the role does not ask for. */
  readonly extra: readonly SiteNode[];
  /** Devices that the sum holds more than once. */
  readonly twice: readonly SiteNode[];
}

/** What a sum of inputs is for, and of which devices. */
export interface RoleQuestion {
  readonly role: SensingRole;
  /** Only these devices, where not all of the role's kind are meant. */
  readonly of?: readonly string[] | undefined;
}

const SOURCES: readonly NodeKind[] = ["pv-inverter", "hybrid-inverter"];
const LOADS: readonly NodeKind[] = ["load", "test-load", "diverter", "ev-charger", "heat-pump"];

/** Which kinds of device a role sums. The grid sums all of them. */
const ROLE_KINDS: Readonly<Record<SensingRole, readonly NodeKind[]>> = {
  grid: [...SOURCES, "battery-inverter", "generator", ...LOADS],
  generation: SOURCES,
  battery: ["battery-inverter"],
  consumption: LOADS,
  heater: ["diverter"],
  vehicle: ["ev-charger"],
};

/** What a sum is for, in words. */
export const ROLE_NAMES: Readonly<Record<SensingRole, string>> = {
  grid: "grid",
  generation: "generation",
  battery: "battery",
  consumption: "consumption",
  heater: "heater",
  vehicle: "vehicle",
};

/**
 * The devices whose sum a role asks for: those named in `of`, else all of its kinds. The grid is the sum of
 * everything on the site; a hybrid inverter counts as generation, and as battery only when it is named.
 *
 * For example: `roleDevices(site, { role: "generation" }).map((node) => node.id)` gives ["pv", "garage-pv"]
 */
export function roleDevices(site: Site, { role, of }: RoleQuestion): readonly SiteNode[] {
  if (of && of.length > 0) return site.nodes.filter((node) => of.includes(node.id));
  return site.nodes.filter((node) => ROLE_KINDS[role].includes(node.kind));
}

/**
 * How often each device is in the sum of some conductors: once for every run in the list that feeds it on that
 * conductor. By Kirchhoff a run's current is the sum over the devices below it, so this is what `predict` makes of it.
 *
 * For example: With the runs to the main board and to the shed on it, the shed's inverter counts 2.
 */
export function countedDevices(
  site: Site,
  around: readonly WindowEntry[],
  tree: SiteTree = siteTree(site),
): ReadonlyMap<string, number> {
  const counts = new Map<string, number>();
  for (const { run, conductor } of around) {
    for (const id of tree.belowRun.get(run) ?? []) {
      const node = tree.nodeById.get(id);
      if (node && node.kind !== "board" && isOn(node, conductor, site)) counts.set(id, (counts.get(id) ?? 0) + 1);
    }
  }
  return counts;
}

/**
 * What would be missed or counted wrongly if these conductors were measured for a role, on the phase of
 * each conductor among them.
 *
 * For example: `roleMismatch(site, { role: "grid" }, [{ run: "sub-board", conductor: "L1" }]).missed` gives [the
 * garage inverter]
 */
export function roleMismatch(
  site: Site,
  question: RoleQuestion,
  around: readonly WindowEntry[],
  conductors: readonly Conductor[] = [...new Set(around.map((entry) => entry.conductor))],
): RoleMismatch {
  const tree = siteTree(site);
  const counts = countedDevices(site, around, tree);
  const wanted = new Set(
    roleDevices(site, question)
      .filter((node) => conductors.some((conductor) => isOn(node, conductor, site)))
      .map((node) => node.id),
  );
  // A device across several of the conductors is in the sum once for each of them, and that is right.
  const fair = (node: SiteNode) => conductors.filter((conductor) => isOn(node, conductor, site)).length;
  const devices = tree.runs.filter((node) => node.kind !== "board");
  return {
    missed: devices.filter((node) => wanted.has(node.id) && (counts.get(node.id) ?? 0) < fair(node)),
    extra: devices.filter((node) => !wanted.has(node.id) && (counts.get(node.id) ?? 0) > 0),
    twice: devices.filter((node) => wanted.has(node.id) && (counts.get(node.id) ?? 0) > fair(node)),
  };
}

/** Whether a mismatch is none. */
export function isRight({ missed, extra, twice }: RoleMismatch): boolean {
  return missed.length + extra.length + twice.length === 0;
}

/**
 * A mismatch in words, as the end of a sentence.
 *
 * For example: `mismatchText(…)` gives "would miss the Garage inverter and would count the Battery twice"
 */
export function mismatchText({ missed, extra, twice }: RoleMismatch): string {
  const parts = [
    ...(missed.length > 0 ? [`would miss ${names(missed)}`] : []),
    ...(extra.length > 0 ? [`would also count ${names(extra)}`] : []),
    ...(twice.length > 0 ? [`would count ${names(twice)} twice`] : []),
  ];
  return parts.length === 0 ? "holds exactly what it should" : joined(parts);
}

function isOn(node: SiteNode, conductor: Conductor, site: Site): boolean {
  return conductor === "N" || phasesOf(node, site).includes(conductor);
}

function names(nodes: readonly SiteNode[]): string {
  return joined(nodes.map((node) => `the ${node.name}`));
}
