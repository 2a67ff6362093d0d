import type { Ct, Meter, MeterInput } from "@/core/site/planSchema";

/**
 * The CT that the plan wants on an input: round what it measures, arrow as wanted, straight, once through, of the ratio
 * that is set.
 */
export function idealCt(meter: Meter, input: MeterInput): Ct {
  return {
    id: `${meter.id}-${input.n}`,
    around: input.measures,
    arrow: input.arrow,
    turns: 1,
    primaryA: input.primaryA,
    secondary: input.secondary,
    leads: "straight",
    plug: { meter: meter.id, input: input.n },
  };
}
