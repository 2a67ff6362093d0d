import type { Noise, TestStep } from "@/core/flows/testSheetSchema";
import { readingVariance } from "@/core/flows/stepTables";
import type { LiveLink } from "@/core/live/liveSchema";

/** What the bus says of an input beside what its display shows, W in the input's own sign. */
export interface BusBeside {
  readonly busW: number;
  /** Display less bus, where that is more than both can be off. */
  readonly differsW?: number;
}

/** As long as it can be taken for the same moment, ms. */
const SAME_MOMENT_MS = 120_000;
/** A display that waits for its next update is older than the bus. */
const FRESH_MS = 10_000;
/** So many standard deviations of both. */
const SPREAD = 4;

/**
 * The live value of an input for the step that is being read: the first without a reading, or one that was read just
 * now. Undefined where nothing is read live, or the step is another moment's.
 *
 * For example: the display was typed as 1200 W, the bus says 1010 W: `{ busW: 1010, differsW: 190 }`.
 *
 * @param isFirstEmpty Whether no step before this one waits for its readings.
 */
export function besideDisplay(
  links: readonly LiveLink[],
  at: { readonly meter: string; readonly input: number },
  seen: Pick<TestStep["readings"][number], "powerW" | "readAt"> | undefined,
  noise: Noise,
  isFirstEmpty: boolean,
): BusBeside | undefined {
  const devices = links.filter(({ state }) => state === "connected").flatMap((link) => link.devices);
  const value = devices
    .filter(({ meter, state }) => meter === at.meter && state === "answers")
    .flatMap(({ values }) => values)
    .find(({ of, input }) => of === "power" && input === at.input);
  if (!value) return undefined;
  if (!seen) return isFirstEmpty ? { busW: value.value } : undefined;
  if (seen.readAt === undefined) return undefined;
  const ageMs = value.atMs - Date.parse(seen.readAt);
  if (ageMs > SAME_MOMENT_MS || ageMs < -FRESH_MS) return undefined;
  const differsW = seen.powerW - value.value;
  const mostW = SPREAD * Math.sqrt(2 * readingVariance(noise, Math.max(Math.abs(seen.powerW), Math.abs(value.value))));
  return Math.abs(differsW) > mostW ? { busW: value.value, differsW } : { busW: value.value };
}
