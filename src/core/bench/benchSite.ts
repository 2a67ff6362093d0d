import { isFittingFault, type BenchFault, type BenchRequest, type FittingFault } from "@/core/bench/benchSchema";
import { applyFault, inputCanExist, plannedFitting, siteWithFitting, type SiteFitting } from "@/core/flows/fitting";
import type { Site } from "@/core/site/planSchema";

/** Faults that move CTs or taps between places come before those of single inputs. */
const MOVING: readonly FittingFault["kind"][] = [
  "exchanged",
  "places-exchanged",
  "rotated",
  "taps-exchanged",
  "meter-reversed",
];

/**
 * The site with its CTs as the bench fits them: as the plan has them fitted, or as planned but for the faults.
 *
 * For example: `benchSite(site, "planned", [{ kind: "reversed", meter: "m1", input: 2 }])` has one CT turned round.
 *
 * @returns undefined where the faults together cannot be fitted.
 */
export function benchSite(
  site: Site,
  fitting: BenchRequest["fitting"],
  faults: readonly BenchFault[],
): Site | undefined {
  const planted = faults.filter(isFittingFault);
  if (fitting === "fitted" && planted.length === 0) return site;
  const inOrder = planted.toSorted((a, b) => Number(MOVING.includes(b.kind)) - Number(MOVING.includes(a.kind)));
  const fitted = inOrder.reduce<SiteFitting>((before, fault) => applyFault(site, before, fault), plannedFitting(site));
  return fitted.inputs.every(inputCanExist(site)) ? siteWithFitting(site, fitted) : undefined;
}
