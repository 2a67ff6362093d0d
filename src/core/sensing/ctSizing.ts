import type { RatioForm } from "@/core/kits/ratioForm";
import { ratioEntry } from "@/core/sensing/ratioEntry";
import { STANDARD_PRIMARIES_A } from "@/core/site/standardPrimaries";
import type { Secondary } from "@/core/site/planSchema";

/** More turns than this do not go through a window that anyone would use. */
const MAX_TURNS = 5;

/**
 * The smallest primary that holds a current: accuracy falls away below a few percent of it, so larger is not safer.
 *
 * @param primariesA Those to choose from; the standard ones when left out.
 * @returns Undefined when none is large enough.
 * @example smallestPrimaryA(63) // 75
 */
export function smallestPrimaryA(
  needA: number,
  primariesA: readonly number[] = STANDARD_PRIMARIES_A,
): number | undefined {
  return primariesA.filter((primary) => primary >= needA).toSorted((a, b) => a - b)[0];
}

/**
 * The primaries of a CT that an input's setting can hold, ascending.
 *
 * @example fittingPrimariesA([100, 200, 400], { kind: "list", values: [200, 600] }, { value: 0.333, unit: "V" }) //
 * [200]
 */
export function fittingPrimariesA(
  primariesA: readonly number[],
  form: RatioForm,
  secondary: Secondary,
): readonly number[] {
  return primariesA
    .filter((primary) => ratioEntry(form, primary, secondary).kind === "entry")
    .toSorted((a, b) => a - b);
}

/**
 * How many turns through the window bring a primary down to just above a current: n turns divide it by n.
 *
 * @example turnsFor(100, 30) // 3: an effective 33 A
 */
export function turnsFor(primaryA: number, needA: number): number {
  return Math.max(1, Math.min(MAX_TURNS, Math.floor(primaryA / needA)));
}
