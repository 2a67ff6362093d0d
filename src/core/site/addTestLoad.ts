import type { Site } from "@/core/site/planSchema";
import type { Phase } from "@/core/phase";
import { phasesOf, siteTree } from "@/core/site/tree";

const USUAL_LOAD_W = 2000;

/**
 * Add a test load on a phase to a plan, fed like the first plain load there (else from the first board that
 * has the phase).
 *
 * For example: `addTestLoad(site, "L3")` gives { site: …, id: "test-l3" }
 *
 * @returns The plan and the new node's id; undefined when nothing on the site has the phase.
 */
export function addTestLoad(site: Site, phase: Phase): { readonly site: Site; readonly id: string } | undefined {
  const { runs, grid } = siteTree(site);
  const has = runs.filter((node) => phasesOf(node, site).includes(phase));
  const load = has.find((node) => node.kind === "load");
  const fedFrom =
    load?.fedFrom ??
    has.find((node) => node.kind === "board")?.id ??
    (phasesOf(grid, site).includes(phase) ? grid.id : undefined);
  if (fedFrom === undefined) return undefined;
  const taken = new Set(site.nodes.map((node) => node.id));
  let id = `test-${phase.toLowerCase()}`;
  for (let number = 2; taken.has(id); number++) id = `test-${phase.toLowerCase()}-${number}`;
  const node = {
    id,
    kind: "test-load" as const,
    name: `Test load ${phase}`,
    fedFrom,
    phases: [phase],
    ratedW: USUAL_LOAD_W,
  };
  return { site: { ...site, nodes: [...site.nodes, node] }, id };
}
