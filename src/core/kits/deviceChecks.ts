import type { Finding } from "@/core/findings";
import type { Kit } from "@/core/kits/kitSchema";
import type { Shelter, Site, SiteNode } from "@/core/site/planSchema";
import { phasesOf } from "@/core/site/tree";

/** How much weather a place lets in, and a kit can stand. */
const EXPOSURE: Readonly<Record<Shelter, number>> = { indoors: 0, unheated: 1, outdoors: 2 };
const SHELTER_WORDS: Readonly<Record<Shelter, string>> = {
  indoors: "indoors only",
  unheated: "under a roof",
  outdoors: "outdoors",
};

/**
 * Whether the devices of a plan are used as their kits allow: rating, number of phases, the weather at their place.
 *
 * @example A charger of 7.4 kW planned with 11 kW: `over-rating`.
 */
export function deviceChecks(site: Site, kits: readonly Kit[]): readonly Finding[] {
  const find = (id: string | undefined) => kits.find((kit) => kit.id === id);
  return [
    ...site.nodes.flatMap((node) => nodeChecks(site, node, find(node.kit))),
    ...site.meters.flatMap((meter) =>
      shelterChecks(site, find(meter.kit), meter.name, meter.place, meter.id, { kind: "meter", meter: meter.id }),
    ),
    ...site.equipment.flatMap((item) =>
      shelterChecks(site, find(item.kit), item.name, item.place, item.id, { kind: "job" }),
    ),
  ];
}

function nodeChecks(site: Site, node: SiteNode, kit: Kit | undefined): readonly Finding[] {
  if (!kit) return [];
  const subject: Finding["subject"] = { kind: "node", node: node.id };
  const findings: Finding[] = [];
  const { powerW, phases, unitsMax } = kit.ratings;
  if (powerW !== undefined && node.ratedW !== undefined && node.ratedW > powerW * (unitsMax ?? 1)) {
    findings.push({
      id: `over-rating:${node.id}`,
      code: "over-rating",
      severity: "fix",
      stage: "plan",
      subject,
      title: "More than the kit is rated for",
      detail: `${node.name} is planned with ${node.ratedW} W; ${kit.name} has ${powerW} W${unitsMax ? ` each, ${unitsMax} at most` : ""}.`,
      cure: "Correct the rating, or choose another kit",
      source: `Kit ${kit.id}, ratings.powerW`,
    });
  }
  const count = phasesOf(node, site).length;
  if (phases && !phases.includes(count)) {
    findings.push({
      id: `kit-phases:${node.id}`,
      code: "kit-phases",
      severity: "fix",
      stage: "plan",
      subject,
      title: "Not made for this many phases",
      detail: `${node.name} is planned on ${count} phase${count === 1 ? "" : "s"}; ${kit.name} is for ${phases.join(" or ")}.`,
      cure: "Correct the phases, or choose another kit",
      source: `Kit ${kit.id}, ratings.phases`,
    });
  }
  return [...findings, ...shelterChecks(site, kit, node.name, node.place, node.id, subject)];
}

function shelterChecks(
  site: Site,
  kit: Kit | undefined,
  name: string,
  placeId: string | undefined,
  id: string,
  subject: Finding["subject"],
): readonly Finding[] {
  const place = site.places.find((candidate) => candidate.id === placeId);
  if (!kit || !place || EXPOSURE[place.shelter] <= EXPOSURE[kit.environment.shelter]) return [];
  return [
    {
      id: `shelter:${id}`,
      code: "shelter",
      severity: "fix",
      stage: "plan",
      subject,
      title: "Not made for the weather at this place",
      detail: `${name} is planned at ${place.name} (${SHELTER_WORDS[place.shelter]}); ${kit.name} is for ${SHELTER_WORDS[kit.environment.shelter]}.`,
      cure: "Hang it elsewhere, or in an enclosure rated for the place",
      source: `Kit ${kit.id}, environment.shelter`,
    },
  ];
}
