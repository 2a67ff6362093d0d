import type { FreePort } from "@/core/links/propose/freePort";
import { memberOf } from "@/core/links/propose/freePort";
import type { Link, LinkKind, LinkMember } from "@/core/plan/linkSchema";
import { MOST_NAME_CHARACTERS } from "@/core/names";
import { cutText } from "@/core/text";

/** Change one link of a list. */
export function changeLink(links: readonly Link[], id: string, change: Partial<Omit<Link, "id" | "members">>): Link[] {
  return links.map((link) => (link.id === id ? { ...link, ...change } : link));
}

/** Change one member of a link. */
export function changeMember(links: readonly Link[], id: string, at: number, change: Partial<LinkMember>): Link[] {
  return links.map((link) =>
    link.id === id
      ? { ...link, members: link.members.map((member, which) => (which === at ? { ...member, ...change } : member)) }
      : link,
  );
}

/**
 * Put a member at another place of its line; terminators stay at the ends where they were there before, and a length
 * that was typed for the old neighbour is worked out anew.
 *
 * For example: `moveMember(links, "rs485-1", 1, 2)` gives the second device becomes the third
 */
export function moveMember(links: readonly Link[], id: string, at: number, to: number): Link[] {
  return links.map((link) => {
    if (link.id !== id || to === at || to < 0 || to >= link.members.length) return link;
    return { ...link, members: settled(link, link.members.toSpliced(at, 1).toSpliced(to, 0, link.members[at]!)) };
  });
}

/** A member more, at the end of the line. */
export function addMember(links: readonly Link[], id: string, end: FreePort): Link[] {
  return links.map((link) =>
    link.id === id ? { ...link, members: settled(link, [...link.members, memberOf(end)]) } : link,
  );
}

/** A member less; a link of one end goes with it. */
export function removeMember(links: readonly Link[], id: string, at: number): Link[] {
  return links.flatMap((link) => {
    if (link.id !== id) return [link];
    const members = settled(link, link.members.toSpliced(at, 1));
    return members.length < 2 ? [] : [{ ...link, members }];
  });
}

/**
 * A new link between two ports, or from one to a provider, with an id that is free and terminators where the kind has
 * them.
 *
 * For example: `addLink(links, "rs485", controllerPort, meterPort)` gives "rs485-3"
 */
export function addLink(links: readonly Link[], kind: LinkKind, from: FreePort, to: FreePort | undefined): Link[] {
  let number = links.filter((link) => link.kind === kind).length + 1;
  while (links.some(({ id }) => id === `${kind}-${number}`)) number++;
  const hasEnds = kind === "rs485" || kind === "can";
  const members = [from, ...(to ? [to] : [])].map((end) => ({
    ...memberOf(end),
    ...(hasEnds ? { terminator: true } : {}),
  }));
  return [
    ...links,
    {
      id: `${kind}-${number}`,
      kind,
      name: cutText(`${from.device.name}${to ? ` to ${to.device.name}` : ", to the provider"}`, MOST_NAME_CHARACTERS),
      members,
    },
  ];
}

/** Take a link away. */
export function removeLink(links: readonly Link[], id: string): Link[] {
  return links.filter((link) => link.id !== id);
}

function settled(before: Link, members: readonly LinkMember[]): LinkMember[] {
  const hasEnds = before.kind === "rs485" || before.kind === "can";
  const wasAtEnds =
    hasEnds &&
    before.members.every((member, which) => (member.terminator ?? false) === isEnd(which, before.members.length));
  return members.map((member, at) => {
    const { distanceM: typed, ...rest } = member;
    const isSameNeighbour =
      before.members.findIndex((other) => other === member) === at && before.members[at - 1] === members[at - 1];
    return {
      ...rest,
      ...(isSameNeighbour && typed !== undefined ? { distanceM: typed } : {}),
      ...(wasAtEnds ? { terminator: isEnd(at, members.length) } : {}),
    };
  });
}

function isEnd(at: number, count: number): boolean {
  return at === 0 || at === count - 1;
}
