import type { Device, KitDevice, PlanLink, ResolvedPlan } from "@/core/plan/resolvedPlan";
import type { SiteNode } from "@/core/site/planSchema";
import type { StepDraft, StepTag } from "@/core/visit/visitStep";
import type { VisitRange } from "@/core/visit/visitKinds";

/** What one visit works on, opens and reaches, worked out from what of the plan is there already. */
export interface VisitScope {
  /** Ids of devices, meters and links that are worked on. */
  readonly touched: ReadonlySet<string>;
  /** Boards that are switched off for it. */
  readonly boards: readonly SiteNode[];
  /** Devices whose covers are opened. */
  readonly opened: ReadonlySet<string>;
  /** Devices that lose their supply meanwhile. */
  readonly switched: ReadonlySet<string>;
  /** Devices that are there already and have to be told of what is new beside them. */
  readonly told: ReadonlySet<string>;
  /** Devices that are reached and brought online. */
  readonly reached: ReadonlySet<string>;
  /** Ids of everything that a step can be about. */
  readonly things: ReadonlySet<string>;
  readonly range: VisitRange;
}

/** Links that are terminated or plugged in behind a cover. */
const WIRED = ["rs485", "can", "bank", "dry-contact", "ethernet", "usb"];
const NETWORK = ["ethernet", "wifi", "cellular", "power-line"];
/** What loses its supply with its board, or is switched by the visit itself. */
const SWITCHED: readonly StepTag[] = ["on-ac", "on-battery", "on-dc", "on", "on-generator", "reconnect"];
/** What has nothing of the plan to be about, or is held to places and boards by its own rule. */
const OF_THE_VISIT: readonly StepTag[] = [
  "survey",
  "unload",
  "isolate",
  "prove-dead",
  "restore",
  "prove",
  "as-found",
  "ask",
  "compare",
  "labels",
  "covers",
  "look-over",
  "clear",
  "restore-backup",
  "island",
  "loads",
  "inverters-off",
  "inverters-on",
  "test-dead",
  "test-live",
  "test-running",
];

/**
 * What a visit touches: what is not there yet, the cables to it, and the boards that feed whatever is opened for that.
 * What is there already is left alone, but told of what is new beside it.
 *
 * @param worked Everything with a kit.
 * @param boards Where the supply is switched.
 */
export function visitScope(
  plan: ResolvedPlan,
  worked: readonly KitDevice[],
  boards: readonly SiteNode[],
  range: VisitRange,
): VisitScope {
  const touched = touchedThings(plan, worked, range);
  const meters = plan.meters.filter(({ id }) => touched.has(id));
  const wired = plan.links.filter(({ id, kind }) => touched.has(id) && WIRED.includes(kind));
  const opened = new Set([
    ...worked.filter((device) => touched.has(device.id) && !isPlain(device)).map(({ id }) => id),
    ...wired.flatMap(({ ends }) => ends.flatMap(({ device }) => (device && !isPlain(device) ? device.id : []))),
  ]);
  const runs = new Set(
    meters.flatMap(({ inputs }) => inputs.flatMap(({ input }) => input.measures.map(({ run }) => run))),
  );
  const off = boardsAbove(plan, boards, new Set([...opened, ...runs]));
  const generators = plan.nodes.filter(({ node }) => node?.kind === "generator");
  const linked = plan.links.filter(({ id }) => touched.has(id));
  const told = new Set(
    [
      ...linked.flatMap(({ ends }) => ends.flatMap(({ device }) => device ?? [])),
      ...meters.flatMap(({ host }) => host ?? []),
    ].flatMap(({ id }) => (touched.has(id) ? [] : id)),
  );
  return {
    touched,
    boards: off,
    opened,
    switched: new Set(
      [...worked, ...generators].filter((device) => touched.has(device.id) || isBelow(device, off)).map(({ id }) => id),
    ),
    told,
    things: new Set([...plan.deviceById.keys(), ...plan.linkById.keys()]),
    reached: new Set(
      range.reaches
        ? plan.links
            .filter(({ kind }) => NETWORK.includes(kind))
            .flatMap(({ ends }) =>
              ends.flatMap(({ device }) => (device && device.kit.kind !== "router" ? device.id : [])),
            )
        : [],
    ),
    range,
  };
}

/** Whether a step belongs to a visit: it is of its kind, and about something that the visit works on. */
export function belongs(scope: VisitScope, { tag, about }: Pick<StepDraft, "tag" | "about">): boolean {
  if (!scope.range.has(tag)) return false;
  if (OF_THE_VISIT.includes(tag) || about === undefined) return true;
  // A pairing is about its link and the follower; an id may hold a colon itself.
  const thing = scope.things.has(about) ? about : about.split(":")[0]!;
  if (SWITCHED.includes(tag)) return scope.switched.has(thing);
  if (tag === "bleed") return scope.opened.has(thing);
  if (tag === "tell") return scope.told.has(thing);
  return scope.touched.has(thing) || scope.reached.has(thing) || !scope.things.has(thing);
}

/** A router has no cover that anybody opens; a plug-in module is plugged in at the device that takes it. */
function isPlain({ kit }: KitDevice): boolean {
  return kit.kind === "router" || kit.kind === "dongle";
}

function touchedThings(plan: ResolvedPlan, worked: readonly KitDevice[], range: VisitRange): ReadonlySet<string> {
  if (range.works === "nothing") return new Set();
  const clamped = plan.meters.filter(({ inputs }) => inputs.some(({ input }) => !input.builtIn));
  if (range.works === "clamps") return new Set(clamped.map(({ id }) => id));
  const isNew = (id: string) => {
    const device = plan.deviceById.get(id);
    return device === undefined || device.isNew;
  };
  const isLaid = ({ existing, ends }: PlanLink) => existing === true || ends.every(({ member }) => !isNew(member.item));
  return new Set([
    ...worked.filter((device) => device.isNew).map(({ id }) => id),
    ...plan.meters.filter(({ meter }) => !meter.existing).map(({ id }) => id),
    ...plan.links.filter((link) => !isLaid(link)).map(({ id }) => id),
  ]);
}

/** The boards that feed any of the things, or are fed by one; the first where nothing says which. */
function boardsAbove(
  { deviceById }: ResolvedPlan,
  boards: readonly SiteNode[],
  things: ReadonlySet<string>,
): readonly SiteNode[] {
  if (things.size === 0) return [];
  const above = new Set<string>();
  for (const thing of things)
    for (let device = deviceById.get(thing); device; device = device.parent) above.add(device.id);
  // A board behind something that is worked on is wired at it, and dead with it.
  const off = boards.filter(({ id, fedFrom }) => above.has(id) || (fedFrom !== undefined && things.has(fedFrom)));
  return off.length > 0 ? off : boards.slice(0, 1);
}

function isBelow(device: Device, off: readonly SiteNode[]): boolean {
  const ids = new Set(off.map(({ id }) => id));
  // What stands on no run has its supply from somewhere that nobody drew: with a board off it may be off too.
  if (device.node === undefined) return off.length > 0;
  for (let above = device.parent; above; above = above.parent) if (ids.has(above.id)) return true;
  return ids.has(device.id);
}
