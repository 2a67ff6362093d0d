import type { Conductor, Phase, Site, SiteNode } from "@/core/site/planSchema";
import { phasesOfSupply } from "@/core/site/phasors";

/** The tree of a site, indexed once: who feeds whom, and which nodes hang below each run. */
export interface SiteTree {
  readonly grid: SiteNode;
  /** Every node but the grid, in plan order; each names the run that feeds it. */
  readonly runs: readonly SiteNode[];
  readonly nodeById: ReadonlyMap<string, SiteNode>;
  readonly childrenOf: ReadonlyMap<string, readonly SiteNode[]>;
  /** Ids of the node and of all its descendants. */
  readonly belowRun: ReadonlyMap<string, ReadonlySet<string>>;
}

/**
 * Index a valid site. Throws when there is no grid node, which `siteSchema` has ruled out.
 *
 * @example siteTree(site).belowRun.get("board") // Set { "board", "house", "pv" }
 */
export function siteTree(site: Site): SiteTree {
  const grid = site.nodes.find((node) => node.kind === "grid");
  if (!grid) throw new Error("siteTree: the plan has no grid node; parse it with siteSchema first");
  const childrenOf = new Map<string, SiteNode[]>(site.nodes.map((node) => [node.id, []]));
  for (const node of site.nodes) if (node.fedFrom !== undefined) childrenOf.get(node.fedFrom)?.push(node);
  const belowRun = new Map<string, ReadonlySet<string>>();
  collectBelow(grid.id, childrenOf, belowRun);
  return {
    grid,
    runs: site.nodes.filter((node) => node.kind !== "grid"),
    nodeById: new Map(site.nodes.map((node) => [node.id, node])),
    childrenOf,
    belowRun,
  };
}

/**
 * The phases of a node: its own, or the supply's for the grid.
 *
 * @example phasesOf({ id: "kettle", kind: "test-load", name: "Kettle", phases: ["L2"] }, site) // ["L2"]
 */
export function phasesOf(node: SiteNode, site: Site): readonly Phase[] {
  return node.phases ?? phasesOfSupply(site.supply);
}

/** The conductors of the run to a node, phases first, neutral last. */
export function conductorsOf(node: SiteNode, site: Site): readonly Conductor[] {
  return [...phasesOf(node, site), "N"];
}

function collectBelow(
  id: string,
  childrenOf: ReadonlyMap<string, readonly SiteNode[]>,
  belowRun: Map<string, ReadonlySet<string>>,
): ReadonlySet<string> {
  const below = new Set([id]);
  for (const child of childrenOf.get(id) ?? []) {
    for (const descendant of collectBelow(child.id, childrenOf, belowRun)) below.add(descendant);
  }
  belowRun.set(id, below);
  return below;
}

/** The name of a node, or its id where the plan has none such. */
export function nodeName(site: Site, id: string): string {
  return site.nodes.find((node) => node.id === id)?.name ?? id;
}
