import { z } from "zod";
import { idSchema, nameSchema, type Site } from "@/core/site/planSchema";
import type { Problem } from "@/core/problem";

const MAX_LINKS = 60;
const MAX_MEMBERS = 40;

const memberSchema = z.object({
  /** A device, meter or piece of equipment of the plan. */
  item: idSchema,
  port: idSchema,
  /** Cable from the member before it along the line, m; worked out from the places when left out. */
  distanceM: z.number().min(0).max(10_000).optional(),
  stubM: z.number().min(0).max(1000).optional(),
  terminator: z.boolean().optional(),
  address: z.int().min(0).max(65_535).optional(),
});

export const linkSchema = z.object({
  id: idSchema,
  kind: z.enum(["rs485", "can"]),
  name: nameSchema,
  /** In the order of the line. */
  members: z.array(memberSchema).min(2, "a link joins at least two ports").max(MAX_MEMBERS),
  baud: z.int().min(300).max(10_000_000).optional(),
});

export const linksSchema = z.array(linkSchema).max(MAX_LINKS);

/** What a multimeter showed at a bus, by link. */
export const busReadingsSchema = z.array(z.object({
  link: idSchema, what: z.enum(["ohm", "idle-mv"]), where: z.enum(["first", "last"]), value: z.number().min(-1e6).max(1e9),
})).max(400);

export type Link = z.output<typeof linkSchema>;
export type LinkMember = z.output<typeof memberSchema>;

/** Ids used twice, members that the plan does not have, one port in two links. Paths are relative to the list. */
export function linkProblems(links: readonly Link[], site: Site): readonly Problem[] {
  const items = new Set([...site.nodes, ...site.meters, ...site.equipment].map(({ id }) => id));
  const taken = new Map<string, string>();
  return links.flatMap((link, at): readonly Problem[] => [
    ...(links.findIndex((other) => other.id === link.id) < at ? [{ path: [at, "id"], message: `the id "${link.id}" is used twice` }] : []),
    ...link.members.flatMap((member, which): readonly Problem[] => {
      const path = [at, "members", which];
      if (!items.has(member.item)) return [{ path: [...path, "item"], message: `the plan has no "${member.item}"` }];
      const key = JSON.stringify([member.item, member.port]);
      const other = taken.get(key);
      taken.set(key, link.id);
      return other === undefined ? [] : [{ path: [...path, "port"], message: `this port is in the link "${other}" already` }];
    }),
  ]);
}
