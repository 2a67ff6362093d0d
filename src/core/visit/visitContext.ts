import { exportLimiter, type ExportLimiter } from "@/core/control/exportLimiter";
import type { JobDocument } from "@/core/job/jobDocument";
import { hasKit, resolve } from "@/core/plan/resolve";
import type { KitDevice, ResolvedPlan } from "@/core/plan/resolvedPlan";
import { isOwnUnit } from "@/core/site/meterHost";
import type { Site, SiteNode } from "@/core/site/planSchema";
import { visitRange } from "@/core/visit/visitKinds";
import { visitScope, type VisitScope } from "@/core/visit/visitScope";

/** What of a document a visit is made from. */
export type VisitPlan = Pick<JobDocument, "site" | "kits" | "links" | "network" | "visit" | "job" | "limit">;

/** What every rule is told. */
export interface VisitContext {
  readonly visit: VisitPlan["visit"];
  readonly plan: ResolvedPlan;
  readonly site: Site;
  /** Everything with a kit, each once; a meter that is part of a device is that device. */
  readonly worked: readonly KitDevice[];
  /** Where the supply is switched; without a board in the plan, the supply itself. */
  readonly boards: readonly SiteNode[];
  /** Who limits the export, where somebody does. */
  readonly limiter: ExportLimiter | undefined;
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
    limiter: exportLimiter(plan),
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

/** Whether something makes mains from DC: from light, or from a battery. */
export function isInverter({ kit }: Pick<KitDevice, "kit">): boolean {
  return isSolar({ kit }) || kit.kind === "battery-inverter";
}

/**
 * Whether mains is wired into it: by its own run, or in series with one, as a direct meter or an energy manager. What
 * only takes its voltage and supply from taps is no such thing.
 */
export function isWired(item: KitDevice): boolean {
  if (isOnMains(item)) return true;
  const hasMains = item.kit.ports.some(({ kind }) => kind === "mains");
  if (!hasMains || item.kit.kind === "battery") return false;
  const own = item.meters.flatMap(({ inputs }) => inputs);
  return own.length === 0 || own.some(({ input }) => input.builtIn);
}

/** Whether something is joined to the mains by its own run. */
export function isOnMains({ node, kit }: KitDevice): boolean {
  return node !== undefined && node.kind !== "board" && node.kind !== "load" && kit.kind !== "battery";
}
