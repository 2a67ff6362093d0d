import type { KitPort, LinkItem } from "@/core/links/linkItems";
import type { Link, LinkMember } from "@/core/links/linkSchema";

/** A port of something in the plan. */
export interface FreePort {
  readonly item: LinkItem;
  readonly port: KitPort;
}

/** @example memberOf(port) // { item: "hybrid", port: "meter" } */
export function memberOf({ item, port }: FreePort): LinkMember {
  return { item: item.id, port: port.id };
}

/** Every port of one kind. */
export function portsOf(items: readonly LinkItem[], kind: KitPort["kind"]): readonly FreePort[] {
  return items.flatMap((item) => item.kit.ports.filter((port) => port.kind === kind).map((port) => ({ item, port })));
}

/** The ports that no link has. */
export function freeOf(ports: readonly FreePort[], links: readonly Link[]): readonly FreePort[] {
  const taken = new Set(links.flatMap((link) => link.members.map((member) => `${member.item} ${member.port}`)));
  return ports.filter(({ item, port }) => !taken.has(`${item.id} ${port.id}`));
}
