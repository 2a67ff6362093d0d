import type { Link, LinkMember } from "@/core/links/linkSchema";

/** Change one link of a list. */
export function changeLink(links: readonly Link[], id: string, change: Partial<Omit<Link, "id" | "members">>): Link[] {
  return links.map((link) => link.id === id ? { ...link, ...change } : link);
}

/** Change one member of a link. */
export function changeMember(links: readonly Link[], id: string, at: number, change: Partial<LinkMember>): Link[] {
  return links.map((link) => link.id === id ? { ...link, members: link.members.map((member, which) => which === at ? { ...member, ...change } : member) } : link);
}

/**
 * Move a member along its line by one place; terminators stay at the ends where they were there before, and a length that
 * was typed for the old neighbour is worked out anew.
 *
 * @example moveMember(links, "rs485-1", 1, 1) // the second device becomes the third
 */
export function moveMember(links: readonly Link[], id: string, at: number, by: 1 | -1): Link[] {
  return links.map((link) => {
    const to = at + by;
    if (link.id !== id || to < 0 || to >= link.members.length) return link;
    const wasAtEnds = link.members.every((member, which) => (member.terminator ?? false) === isEnd(which, link.members.length));
    const moved = link.members.toSpliced(at, 1).toSpliced(to, 0, link.members[at]!);
    return { ...link, members: moved.map((member, which) => {
      const { distanceM: _typed, ...rest } = member;
      return wasAtEnds ? { ...rest, terminator: isEnd(which, moved.length) } : rest;
    }) };
  });
}

function isEnd(at: number, count: number): boolean {
  return at === 0 || at === count - 1;
}

/** Take a link away. */
export function removeLink(links: readonly Link[], id: string): Link[] {
  return links.filter((link) => link.id !== id);
}
