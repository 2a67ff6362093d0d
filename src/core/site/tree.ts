import type { Conductor, Ct, Meter, Place, Site, SiteNode } from "@/core/site/planSchema";
import type { Phase } from "@/core/phase";
import { firstById } from "@/core/firstById";
import { phasesOfSupply } from "@/core/site/phasors";

/** A site indexed once: who feeds whom, which nodes hang below each run, and what bears which id. */
export interface SiteTree {
  readonly grid: SiteNode;
  /** Every node but the grid, in plan order; each names the run that feeds it. */
  readonly runs: readonly SiteNode[];
  readonly nodeById: ReadonlyMap<string, SiteNode>;
  readonly childrenOf: ReadonlyMap<string, readonly SiteNode[]>;
  /** Ids of the node and of all its descendants. */
  readonly belowRun: ReadonlyMap<string, ReadonlySet<string>>;
  readonly meterById: ReadonlyMap<string, Meter>;
  readonly placeById: ReadonlyMap<string, Place>;
  readonly ctById: ReadonlyMap<string, Ct>;
}

/** A site never changes: whoever asks for its tree again is given the same. */
const known = new WeakMap<Site, SiteTree>();

/**
 * Index a valid site. Throws when there is no grid node, which `siteSchema` has ruled out.
 *
 * For example: `siteTree(site).belowRun.get("board")` gives Set { "board", "house", "pv" }
 */
export function siteTree(site: Site): SiteTree {
  const tree = known.get(site) ?? indexed(site);
  known.set(site, tree);
  return tree;
}

function indexed(site: Site): SiteTree {
  const grid = site.nodes.find((node) => node.kind === "grid");
  if (!grid) throw new Error("siteTree: the plan has no grid node; parse it with siteSchema first");
  const childrenOf = new Map<string, SiteNode[]>(site.nodes.map((node) => [node.id, []]));
  for (const node of site.nodes) if (node.fedFrom !== undefined) childrenOf.get(node.fedFrom)?.push(node);
  const belowRun = new Map<string, ReadonlySet<string>>();
  collectBelow(grid.id, childrenOf, belowRun);
  return {
    grid,
    runs: site.nodes.filter((node) => node.kind !== "grid"),
    nodeById: firstById(site.nodes),
    childrenOf,
    belowRun,
    meterById: firstById(site.meters),
    placeById: firstById(site.places),
    ctById: firstById(site.cts),
  };
}

/**
 * The phases of a node: its own, or the supply's for the grid.
 *
 * For example: `phasesOf({ id: "kettle", kind: "test-load", name: "Kettle", phases: ["L2"] }, site)` gives ["L2"]
 */
export function phasesOf(node: SiteNode, site: Site): readonly Phase[] {
  return node.phases ?? phasesOfSupply(site.supply);
}

/** The conductors of the circuit of a node, phases first, neutral last. */
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
  return siteTree(site).nodeById.get(id)?.name ?? id;
}
