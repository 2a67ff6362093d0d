import { readingVariance } from "@/core/flows/stepTables";
import type { Noise } from "@/core/flows/testSheetSchema";

/** One power of an input as it was read. */
export interface TimedPower {
  readonly powerW: number;
  readonly atMs: number;
}

/** What the readings of some seconds come to. */
export type TakenReading =
  | {
      readonly kind: "steady";
      readonly powerW: number;
      /** Standard deviation of the single readings, W. */
      readonly spreadW: number;
      readonly count: number;
      readonly ageS: number;
    }
  | { readonly kind: "moving"; readonly changeW: number; readonly spreadW: number }
  | { readonly kind: "too-few"; readonly count: number };

const FEWEST = 4;
/** How many times the assumed noise single readings may spread before they count as moving. */
const MOST_SPREAD = 3;
/** Of the difference of two means, in its own standard deviations. */
const MOST_DRIFT = 4;
const MS_PER_S = 1000;

/**
 * The mean of an input's readings within the last seconds, if they stand still: x̄ with s = √(Σ(x − x̄)² / (n − 1)).
 * They move when s is more than three times the noise that the sheet assumes, or the means of their two halves differ
 * by more than four standard deviations of such a difference, 2s/√n.
 *
 * For example: 2400, 2410, 2395, 2405 W: 2402.5 W, spread 6.5 W, 4 readings.
 */
export function takeReading(
  readings: readonly TimedPower[],
  { nowMs, windowS, noise }: { readonly nowMs: number; readonly windowS: number; readonly noise: Noise },
): TakenReading {
  const own = readings.filter(({ atMs }) => atMs >= nowMs - windowS * MS_PER_S);
  if (own.length < FEWEST) return { kind: "too-few", count: own.length };
  const powerW = mean(own);
  const spreadW = Math.sqrt(own.reduce((sum, one) => sum + (one.powerW - powerW) ** 2, 0) / (own.length - 1));
  const noiseW = Math.sqrt(readingVariance(noise, powerW));
  const half = Math.floor(own.length / 2);
  const changeW = mean(own.slice(half)) - mean(own.slice(0, half));
  const isDrifting = Math.abs(changeW) > (MOST_DRIFT * 2 * Math.max(spreadW, noiseW)) / Math.sqrt(own.length);
  if (spreadW > MOST_SPREAD * noiseW || isDrifting) return { kind: "moving", changeW, spreadW };
  return { kind: "steady", powerW, spreadW, count: own.length, ageS: (nowMs - own.at(-1)!.atMs) / MS_PER_S };
}

/**
 * Whether an input shows another power than before something was switched: by more than five times its noise and a
 * quarter of what was switched.
 *
 * For example: 310 W before, 2290 W now, 2000 W switched: yes.
 */
export function hasChanged(beforeW: number, nowW: number, switchedW: number, noise: Noise): boolean {
  const noiseW = Math.sqrt(readingVariance(noise, Math.max(Math.abs(beforeW), Math.abs(nowW))));
  return Math.abs(nowW - beforeW) > Math.max(MOST_CHANGE_OF_NOISE * noiseW, LEAST_SHARE * Math.abs(switchedW));
}

const MOST_CHANGE_OF_NOISE = 5;
const LEAST_SHARE = 0.25;

function mean(readings: readonly TimedPower[]): number {
  return readings.reduce((sum, { powerW }) => sum + powerW, 0) / readings.length;
}
