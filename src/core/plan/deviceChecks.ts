import { said, together } from "@/core/sentence";
import type { Finding } from "@/core/findings";
import type { Device, ResolvedPlan } from "@/core/plan/resolvedPlan";
import type { Shelter, Site } from "@/core/site/planSchema";
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
 * For example: A charger of 7.4 kW planned with 11 kW: `over-rating`.
 */
export function deviceChecks({ nodes, meters, equipment, site }: ResolvedPlan): readonly Finding[] {
  return [
    ...nodes.flatMap((device) => [
      ...ratingChecks(device),
      ...phaseChecks(device, site),
      ...shelterChecks(device, { kind: "node", node: device.id }),
    ]),
    ...meters.flatMap(({ id, self }) => shelterChecks(self, { kind: "meter", meter: id })),
    ...equipment.flatMap((device) => shelterChecks(device, { kind: "job" })),
  ];
}

function ratingChecks({ id, name, node, kit }: Device): readonly Finding[] {
  if (!kit || !node) return [];
  const { powerW, unitsMax } = kit.ratings;
  if (powerW === undefined || node.ratedW === undefined || node.ratedW <= powerW * (unitsMax ?? 1)) return [];
  return [
    {
      id: `over-rating:${id}`,
      code: "over-rating",
      severity: "fix",
      stage: "plan",
      subject: { kind: "node", node: id },
      title: "More than the kit is rated for",
      detail: together(
        said`${name} is planned with ${node.ratedW} W; ${kit.name} has ${powerW} `,
        said`W${unitsMax ? said` each, ${unitsMax} at most` : ""}.`,
      ),
      cure: "Correct the rating, or choose another kit",
      source: `Kit ${kit.id}, ratings.powerW`,
    },
  ];
}

function phaseChecks({ id, name, node, kit }: Device, site: Site): readonly Finding[] {
  const able = kit?.ratings.phases;
  if (!kit || !node || !able) return [];
  const count = phasesOf(node, site).length;
  if (able.includes(count)) return [];
  return [
    {
      id: `kit-phases:${id}`,
      code: "kit-phases",
      severity: "fix",
      stage: "plan",
      subject: { kind: "node", node: id },
      title: "Not made for this many phases",
      detail: together(
        said`${name} is planned on ${count} phase${count === 1 ? "" : "s"}; ${kit.name} is for `,
        said`${able.join(" or ")}.`,
      ),
      cure: "Correct the phases, or choose another kit",
      source: `Kit ${kit.id}, ratings.phases`,
    },
  ];
}

function shelterChecks({ id, name, kit, place }: Device, subject: Finding["subject"]): readonly Finding[] {
  if (!kit || !place || EXPOSURE[place.shelter] <= EXPOSURE[kit.environment.shelter]) return [];
  return [
    {
      id: `shelter:${id}`,
      code: "shelter",
      severity: "fix",
      stage: "plan",
      subject,
      title: "Not made for the weather at this place",
      detail: together(
        said`${name} is planned at ${place.name} (${SHELTER_WORDS[place.shelter]}); ${kit.name} is for `,
        said`${SHELTER_WORDS[kit.environment.shelter]}.`,
      ),
      cure: "Hang it elsewhere, or in an enclosure rated for the place",
      source: `Kit ${kit.id}, environment.shelter`,
    },
  ];
}
