import type { Kit } from "@/core/kits/kitSchema";
import type { Link, LinkMember } from "@/core/links/linkSchema";
import { distanceBetween } from "@/core/site/distances";
import { isOwnUnit } from "@/core/site/meterHost";
import type { Site } from "@/core/site/planSchema";

export type KitPort = Kit["ports"][number];

/** Something of the plan that has ports: a device on a run, a meter, or equipment. */
export interface LinkItem {
  readonly id: string;
  readonly name: string;
  readonly kit: Kit;
  readonly place: string | undefined;
}

/** Cable between two devices of one place: up, along and down again. */
const SAME_PLACE_M = 2;

/** Everything of a plan that has a kit with ports. A meter that is part of a device is that device. */
export function linkItems(site: Site, kits: readonly Kit[]): readonly LinkItem[] {
  const find = (id: string | undefined) => kits.find((kit) => kit.id === id);
  const all = [...site.nodes, ...site.equipment, ...site.meters.filter(isOwnUnit)];
  return all.flatMap(({ id, name, kit: kitId, place }) => {
    const kit = find(kitId);
    return kit && kit.ports.length > 0 ? [{ id, name, kit, place }] : [];
  });
}

/** A member with what it stands for; undefined where its item or port is gone. */
export function memberPort(
  items: readonly LinkItem[],
  member: LinkMember,
): { readonly item: LinkItem; readonly port: KitPort } | undefined {
  const item = items.find((candidate) => candidate.id === member.item);
  const port = item?.kit.ports.find((candidate) => candidate.id === member.port);
  return item && port && { item, port };
}

/**
 * The port by which a line goes on from a device: a plug takes one lead, so a device with a second socket of the same
 * kind and role passes the line through that. On terminals the line goes on from where it came.
 *
 * @example An inverter with sockets IN and OUT, reached at IN: OUT.
 */
export function outgoingPort({ item, port }: { readonly item: LinkItem; readonly port: KitPort }): KitPort | undefined {
  if (port.connector !== "rj45") return port;
  return item.kit.ports.find(
    (other) =>
      other.id !== port.id &&
      other.kind === port.kind &&
      other.role === port.role &&
      other.connector === port.connector,
  );
}

/**
 * Cable between two items, m, along the ways of the plan; undefined where no cable can be laid.
 *
 * @example Two devices in one cupboard: 2.
 */
export function cableBetweenM(site: Site, a: LinkItem, b: LinkItem): number | undefined {
  if (a.place === undefined || b.place === undefined || a.place === b.place) return SAME_PLACE_M;
  const { cableM } = distanceBetween(site, a.place, b.place);
  return cableM === undefined ? undefined : cableM + SAME_PLACE_M;
}

/** The cable from the member before to each member of a link, m; the first has none. */
export function memberDistancesM(site: Site, items: readonly LinkItem[], link: Link): readonly (number | undefined)[] {
  return link.members.map((member, at) => {
    if (at === 0) return 0;
    if (member.distanceM !== undefined) return member.distanceM;
    const before = memberPort(items, link.members[at - 1]!);
    const here = memberPort(items, member);
    return before && here && cableBetweenM(site, before.item, here.item);
  });
}
