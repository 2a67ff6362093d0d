import type { Kit } from "@/core/kits/kitSchema";
import { fittingPrimariesA, smallestPrimaryA } from "@/core/sensing/ctSizing";
import { inputFlows } from "@/core/sensing/inputFlows";
import type { MeterInput, Site } from "@/core/site/planSchema";
import { STANDARD_PRIMARIES_A } from "@/core/site/standardPrimaries";

/**
 * The primary that an input should have: the smallest that holds what can flow, is sold (of the CT's kit, else a
 * standard one) and can be set in the meter.
 *
 * For example: A main run behind 63 A, a CT sold in 60, 80 and 100 A, a meter that takes steps of 5 A: 80.
 *
 * @returns Undefined when the plan does not say what can flow, or when none is large enough.
 */
export function advisedPrimaryA(
  site: Site,
  input: MeterInput,
  kit: Kit | undefined,
  ctKit: Kit | undefined,
): number | undefined {
  const { needA } = inputFlows(site, input);
  return needA === undefined ? undefined : smallestPrimaryA(needA, usablePrimariesA(input, kit, ctKit));
}

/** The primaries to choose from: sold, and such that the meter can be set to them; ascending. */
export function usablePrimariesA(input: MeterInput, kit: Kit | undefined, ctKit: Kit | undefined): readonly number[] {
  const form = kit?.metering?.inputs.find((candidate) => candidate.n === input.n)?.ratio;
  const sold = ctKit?.clamp?.primariesA ?? (form?.kind === "list" ? form.values : STANDARD_PRIMARIES_A);
  return form ? fittingPrimariesA(sold, form, input.secondary) : sold;
}
