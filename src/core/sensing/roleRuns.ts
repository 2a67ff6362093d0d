import { isRight, roleDevices, roleMismatch, type RoleMismatch, type RoleQuestion } from "@/core/sensing/roles";
import type { Conductor, Site, SiteNode } from "@/core/site/planSchema";
import { conductorsOf, siteTree, type SiteTree } from "@/core/site/tree";

/** One way to measure a role on a conductor: one run, or several whose sum is meant. */
export interface RunChoice {
  readonly runs: readonly SiteNode[];
  readonly mismatch: RoleMismatch;
  readonly isRight: boolean;
}

/**
 * The runs that could measure a role on one conductor, right ones first, then by how many devices would be wrong.
 * Where no single run is right, the fewest runs whose sum is: through one window, or a CT each.
 * Of two right runs the one nearer the grid comes first: nothing can later be added between it and its parent unseen.
 *
 * For example: For the generation of a roof and a garage inverter on runs of their own: first the two runs together.
 */
export function roleRuns(site: Site, question: RoleQuestion, conductor: Conductor): readonly RunChoice[] {
  const tree = siteTree(site);
  const withConductor = tree.runs.filter((node) => conductorsOf(node, site).includes(conductor));
  const choiceOf = (runs: readonly SiteNode[]): RunChoice => {
    const mismatch = roleMismatch(
      site,
      question,
      runs.map((node) => ({ run: node.id, conductor })),
      [conductor],
    );
    return { runs, mismatch, isRight: isRight(mismatch) };
  };
  const single = withConductor.map((node) => choiceOf([node])).toSorted((a, b) => wrongness(a) - wrongness(b));
  if (single[0]?.isRight) return single;
  const several = choiceOf(pureRuns(site, question, conductor, tree));
  return several.isRight && several.runs.length > 1 ? [several, ...single] : single;
}

function wrongness({ mismatch: { missed, extra, twice } }: RunChoice): number {
  return missed.length + extra.length + twice.length;
}

/** The topmost runs that feed, on this conductor, only what the role asks for and something of it. */
function pureRuns(site: Site, question: RoleQuestion, conductor: Conductor, tree: SiteTree): readonly SiteNode[] {
  const wanted = new Set(roleDevices(site, question).map((node) => node.id));
  const visit = (node: SiteNode): readonly SiteNode[] => {
    const devices = [...(tree.belowRun.get(node.id) ?? [])].flatMap((id) => {
      const below = tree.nodeById.get(id);
      return below && below.kind !== "board" && conductorsOf(below, site).includes(conductor) ? [id] : [];
    });
    if (devices.length > 0 && devices.every((id) => wanted.has(id))) return [node];
    return (tree.childrenOf.get(node.id) ?? []).flatMap(visit);
  };
  return (tree.childrenOf.get(tree.grid.id) ?? []).flatMap(visit);
}
