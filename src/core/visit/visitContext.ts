import type { JobDocument } from "@/core/job/jobDocument";
import { hasKit, resolve } from "@/core/plan/resolve";
import type { KitDevice, ResolvedPlan } from "@/core/plan/resolvedPlan";
import { isOwnUnit } from "@/core/site/meterHost";
import type { Site, SiteNode } from "@/core/site/planSchema";
import { visitRange } from "@/core/visit/visitKinds";
import { visitScope, type VisitScope } from "@/core/visit/visitScope";

/** What of a document a visit is made from. */
export type VisitPlan = Pick<JobDocument, "site" | "kits" | "links" | "network" | "visit" | "job">;

/** What every rule is told. */
export interface VisitContext {
  readonly visit: VisitPlan["visit"];
  readonly plan: ResolvedPlan;
  readonly site: Site;
  /** Everything with a kit, each once; a meter that is part of a device is that device. */
  readonly worked: readonly KitDevice[];
  /** Where the supply is switched; without a board in the plan, the supply itself. */
  readonly boards: readonly SiteNode[];
  /** What this visit works on. */
  readonly scope: VisitScope;
  readonly placeName: (id: string | undefined) => string;
}

/** What every rule is told of a document, worked out once. */
export function visitContext(document: VisitPlan): VisitContext {
  const plan = resolve(document);
  const { site, nodes, meters, equipment, tree } = plan;
  const { kind, reason } = document.visit;
  const units = meters.filter(({ meter }) => isOwnUnit(meter)).map(({ self }) => self);
  const worked = [...nodes, ...units, ...equipment].filter(hasKit);
  const boards = boardsOf(site);
  return {
    visit: document.visit,
    plan,
    site,
    worked,
    boards,
    scope: visitScope(plan, worked, boards, visitRange(kind, reason)),
    placeName: (id) => (id === undefined ? "every place that is opened" : (tree.placeById.get(id)?.name ?? id)),
  };
}

/** A site is switched off and on somewhere, also where nobody drew a board. */
function boardsOf(site: Site): readonly SiteNode[] {
  const boards = site.nodes.filter(({ kind }) => kind === "board");
  return boards.length > 0 ? boards : site.nodes.filter(({ kind }) => kind === "grid");
}

/** Whether something makes power from light: it has strings and a DC side. */
export function isSolar({ kit }: Pick<KitDevice, "kit">): boolean {
  return kit.kind === "pv-inverter" || kit.kind === "hybrid-inverter";
}

/** Whether something is joined to the mains by its own run. */
export function isOnMains({ node, kit }: KitDevice): boolean {
  return node !== undefined && node.kind !== "board" && node.kind !== "load" && kit.kind !== "battery";
}
