import type { Link } from "@/core/plan/linkSchema";
import { proposeBuses } from "@/core/links/propose/proposeBuses";
import { proposeNetwork } from "@/core/links/propose/proposeNetwork";
import { proposeShortLinks } from "@/core/links/propose/proposeShortLinks";
import type { ResolvedPlan } from "@/core/plan/resolvedPlan";
import { MOST_NAME_CHARACTERS } from "@/core/names";
import { cutText } from "@/core/text";

/**
 * The links that a plan and its kits ask for, of every kind: which port, in which order, who asks, where terminators
 * go, wire where a cable can be laid and radio where none can. Ids number the links of each kind.
 *
 * For example: A hybrid with a METER port, a meter and a battery: one RS-485 line of two and one CAN line of two.
 */
export function proposeLinks(plan: ResolvedPlan): readonly Link[] {
  const buses = proposeBuses(plan);
  const short = proposeShortLinks(plan, buses);
  const counts = new Map<string, number>();
  return [...buses, ...short, ...proposeNetwork(plan, short)].map((link) => {
    const count = (counts.get(link.kind) ?? 0) + 1;
    counts.set(link.kind, count);
    return { ...link, name: cutText(link.name, MOST_NAME_CHARACTERS), id: `${link.kind}-${count}` };
  });
}
