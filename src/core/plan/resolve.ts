import { firstById } from "@/core/firstById";
import type { Kit } from "@/core/kits/kitSchema";
import { networkSchema, type Link } from "@/core/plan/linkSchema";
import { divertSettingsSchema } from "@/core/plan/divertSettings";
import { limitSettingsSchema } from "@/core/plan/limitSettings";
import { asksOnLine, cableBetweenM, isWhole } from "@/core/plan/linkEnds";
import type {
  Beyond,
  Device,
  KitDevice,
  LinkEnd,
  PlanInput,
  PlanLink,
  PlanMeter,
  PlanParts,
  ResolvedPlan,
} from "@/core/plan/resolvedPlan";
import { directWay } from "@/core/site/distances";
import { isOwnUnit } from "@/core/site/meterHost";
import type { Ct, Site, SiteNode } from "@/core/site/planSchema";
import { siteTree, type SiteTree } from "@/core/site/tree";

/** While a plan is put together, one thing is told of another. */
type Drafted<T> = { -readonly [K in keyof T]: T[K] };

const PARTS = ["kits", "links", "network", "limit", "divert"] as const;
const UNKNOWN_NETWORK = networkSchema.parse({});
const NO_LIMIT = limitSettingsSchema.parse({});
const USUAL_DIVERT = divertSettingsSchema.parse({});
/** What was resolved last of each site, while its other parts are the same. */
const known = new WeakMap<Site, ResolvedPlan & { readonly from: PlanParts }>();

/**
 * A plan with everything that it names looked up: devices that hold kit, place, parent, children and their own meters,
 * inputs with the CT that is on them, links with real ends and what lies behind a radio pair. What is asked for
 * again without a change is not made again.
 *
 * Never fails on a document of the job's schema. A part that a document names and does not have is undefined.
 *
 * For example: `resolve(job).deviceById.get("hybrid")?.place?.name` gives "Garage"
 */
export function resolve(parts: PlanParts): ResolvedPlan {
  const last = known.get(parts.site);
  if (last && PARTS.every((part) => last.from[part] === parts[part])) return last;
  const { site, kits, links, network, limit, divert } = parts;
  const isJoinedAlike = last?.from.kits === kits && last.from.links === links && last.from.network === network;
  const made = {
    ...(isJoinedAlike ? last : resolvedPlan(parts)),
    limit: limit ?? NO_LIMIT,
    divert: divert ?? USUAL_DIVERT,
    from: { site, kits, links, network, limit, divert },
  };
  known.set(site, made);
  return made;
}

function resolvedPlan({
  site,
  kits,
  links,
  network = UNKNOWN_NETWORK,
}: PlanParts): Omit<ResolvedPlan, "limit" | "divert"> {
  const tree = siteTree(site);
  const kitById = firstById(kits);
  const nodes = site.nodes.map((node) => deviceOf(node, tree, kitById, node));
  const equipment = site.equipment.map((item) => deviceOf(item, tree, kitById));
  const hostById = firstById([...nodes, ...equipment]);
  joinFeeders(nodes, hostById);
  const meters = metersOf(site, tree, kitById, hostById);
  const units = meters.filter(({ meter }) => isOwnUnit(meter)).map(({ self }) => self);
  const joinable = [...nodes, ...equipment, ...units].filter(hasPorts);
  const joinableById = firstById(joinable);
  const planLinks = linksOf(site, links, joinableById);
  return {
    site,
    kits,
    network,
    tree,
    nodes,
    equipment,
    meters,
    inputs: meters.flatMap(({ inputs }) => inputs),
    joinable,
    links: planLinks,
    kitById,
    deviceById: firstById([...nodes, ...meters.map(({ self }) => self), ...equipment]),
    joinableById,
    meterById: firstById(meters),
    linkById: firstById(planLinks),
  };
}

type Listed = Pick<SiteNode, "id" | "name" | "kit" | "place" | "existing">;

function deviceOf(
  { id, name, kit, place, existing }: Listed,
  { placeById }: SiteTree,
  kitById: ReadonlyMap<string, Kit>,
  node?: SiteNode,
): Drafted<Device> {
  return {
    id,
    name,
    kit: kit === undefined ? undefined : kitById.get(kit),
    place: place === undefined ? undefined : placeById.get(place),
    isNew: !existing,
    node,
    parent: undefined,
    children: [],
    meters: [],
    links: [],
  };
}

/** Every device on a run knows what feeds it, and what it feeds. */
function joinFeeders(nodes: readonly Drafted<Device>[], byId: ReadonlyMap<string, Drafted<Device>>): void {
  for (const device of nodes) {
    const parent = byId.get(device.node?.fedFrom ?? "");
    device.parent = parent;
    if (parent) parent.children = [...parent.children, device];
  }
}

function metersOf(
  site: Site,
  tree: SiteTree,
  kitById: ReadonlyMap<string, Kit>,
  hostById: ReadonlyMap<string, Drafted<Device>>,
): readonly PlanMeter[] {
  const clampOf = clampsByInput(site.cts);
  return site.meters.map((meter): PlanMeter => {
    const self = deviceOf(meter, tree, kitById);
    const host = typeof meter.partOf === "string" ? hostById.get(meter.partOf) : undefined;
    const inputs = meter.inputs.map((input): PlanInput => ({
      meter,
      input,
      kit: self.kit,
      kitInput: self.kit?.metering?.inputs.find(({ n }) => n === input.n),
      ctKit: input.clamp?.kit === undefined ? undefined : kitById.get(input.clamp.kit),
      clamp: clampOf.get(meter.id)?.get(input.n),
    }));
    const made: PlanMeter = { id: meter.id, meter, kit: self.kit, self, host, inputs };
    self.meters = [made];
    if (host) host.meters = [...host.meters, made];
    return made;
  });
}

/** Meter and input of each CT that is plugged in; the first where two are. */
function clampsByInput(cts: readonly Ct[]): ReadonlyMap<string, ReadonlyMap<number, Ct>> {
  const found = new Map<string, Map<number, Ct>>();
  for (const ct of cts) {
    if (!ct.plug) continue;
    const own = found.get(ct.plug.meter) ?? new Map<number, Ct>();
    if (!own.has(ct.plug.input)) own.set(ct.plug.input, ct);
    found.set(ct.plug.meter, own);
  }
  return found;
}

function linksOf(
  site: Site,
  links: readonly Link[],
  joinableById: ReadonlyMap<string, Drafted<KitDevice>>,
): readonly PlanLink[] {
  const made = links.map((link): Drafted<PlanLink> => {
    const ends = endsOf(site, link, joinableById);
    return {
      ...link,
      ends,
      whole: ends.every(isWhole) ? ends : undefined,
      straightM: straightM(site, ends),
      beyond: undefined,
      isFarSide: false,
    };
  });
  for (const link of made) {
    link.beyond = beyondOf(link, made);
    for (const id of new Set(link.members.map(({ item }) => item))) {
      const device = joinableById.get(id);
      if (device) device.links = [...device.links, link];
    }
  }
  for (const link of made)
    for (const other of made) if (other !== link && link.beyond?.line?.id === other.id) other.isFarSide = true;
  return made;
}

function endsOf(site: Site, link: Link, joinableById: ReadonlyMap<string, KitDevice>): readonly LinkEnd[] {
  const there = link.members.map((member) => {
    const device = joinableById.get(member.item);
    return { member, device, port: device?.kit.ports.find(({ id }) => id === member.port) };
  });
  return there.map((end, at): LinkEnd => {
    const before = there[at - 1];
    const isJoined = before?.device !== undefined && before.port !== undefined && end.port !== undefined;
    const planned = isJoined ? cableBetweenM(site, before.device!, end.device!) : undefined;
    return { ...end, cableM: at === 0 ? 0 : (end.member.distanceM ?? planned) };
  });
}

function straightM(site: Site, ends: readonly LinkEnd[]): number | undefined {
  const [a, b] = ends.filter(isWhole).map(({ device }) => device.place?.id);
  return a !== undefined && b !== undefined && a !== b ? directWay(site, a, b)?.straightM : undefined;
}

/**
 * Through the half of a radio pair that is on a line whose client is at this end; undefined for a line without one, and
 * for the line at the far side.
 */
function beyondOf(link: PlanLink, links: readonly PlanLink[]): Beyond | undefined {
  if (link.kind !== "rs485") return undefined;
  const half = link.ends.find((end, at) => at > 0 && end.port !== undefined && end.device?.kit.kind === "radio-pair");
  if (!half) return undefined;
  const radio = links.find(
    ({ kind, members }) => kind === "radio" && members.some(({ item }) => item === half.member.item),
  );
  const other = radio?.ends.find(({ member }) => member.item !== half.member.item);
  if (!radio || !other) return undefined;
  const line = links.find(
    ({ kind, ends }) =>
      kind === "rs485" &&
      ends.some((end, at) => end.member.item === other.member.item && isWhole(end) && asksOnLine(end, at)),
  );
  return { radio, line, nearHalf: half.device, farHalf: other.device };
}

/** Whether the plan has the kit of a device. */
export function hasKit(device: Device): device is KitDevice {
  return device.kit !== undefined;
}

function hasPorts(device: Drafted<Device>): device is Drafted<KitDevice> {
  return device.kit !== undefined && device.kit.ports.length > 0;
}
