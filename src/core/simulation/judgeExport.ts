import type { ExportTraces } from "@/core/simulation/feedIn/simulateExport";
import type { ExportLimitResult } from "@/core/simulation/exportLimitSchema";

/** The end of a trace, over which it is called settled: this part of what comes after the last happening. */
const SETTLED_SHARE = 0.6;
/** A swing of this part of the limit, and at least so many W, is hunting. */
const HUNT_SHARE = 0.04;
const HUNT_LEAST_W = 60;
const HUNT_TURNS = 4;
/** Above the limit by more than this counts, W. */
export const OVER_TOLERANCE_W = 1;

/** Recorded or simulated export over time, judged by the same code. */
export interface ExportTrace {
  readonly tS: ArrayLike<number>;
  /** On which the limit is: the sum, or the worst phase; positive when exporting. */
  readonly exportW: ArrayLike<number>;
}

/** How an export stands to its limit, W and s. */
export interface ExportJudgement {
  readonly maxExportW: number;
  readonly secondsOver: number;
  readonly longestOverS: number;
  readonly settledExportW: number;
  readonly oscillates: boolean;
  readonly verdict: ExportLimitResult["verdict"];
}

/** The export that a limit is on, at every step. */
export function traceOf({ gridW, phaseW, stepS, steps }: ExportTraces, basis: "sum" | "per-phase"): ExportTrace {
  const [tS, exportW] = [new Float64Array(steps), new Float64Array(steps)];
  for (let step = 0; step < steps; step++) {
    tS[step] = step * stepS;
    exportW[step] = -gridW[step]!;
  }
  if (basis === "per-phase") {
    exportW.fill(-Infinity);
    for (const watts of phaseW)
      for (let step = 0; step < steps; step++) exportW[step] = Math.max(exportW[step]!, -watts[step]!);
  }
  return { tS, exportW };
}

/**
 * A trace against the rule: above the limit for no longer than allowed, settled within it, not hunting.
 *
 * For example: 6200 W for 2 s, then 4900 W, under 5000 W with 5 s allowed: holds.
 *
 * @param quietFromS When the last thing happened; from then on it must come to rest.
 */
export function judgeExport(
  { tS, exportW }: ExportTrace,
  limit: { readonly powerW: number; readonly secondsAllowed: number },
  deadBandW: number,
  quietFromS = 0,
): ExportJudgement {
  const count = tS.length;
  const endS = count > 0 ? tS[count - 1]! : 0;
  let maxExportW = -Infinity,
    secondsOver = 0,
    overS = 0,
    longestOverS = 0;
  for (let at = 0; at < count; at++) {
    const dt = at + 1 < count ? tS[at + 1]! - tS[at]! : at > 0 ? tS[at]! - tS[at - 1]! : 0;
    maxExportW = Math.max(maxExportW, exportW[at]!);
    const isOver = exportW[at]! > limit.powerW + OVER_TOLERANCE_W;
    overS = isOver ? overS + dt : 0;
    secondsOver += isOver ? dt : 0;
    longestOverS = Math.max(longestOverS, overS);
  }
  const tail = tailOf({ tS, exportW }, endS - (1 - SETTLED_SHARE) * (endS - Math.min(quietFromS, endS)));
  const settledExportW = sumOf(tail) / Math.max(1, tail.length);
  const oscillates = swings(tail, Math.max(HUNT_LEAST_W, HUNT_SHARE * limit.powerW, 2 * deadBandW));
  const settlesOver = settledExportW > limit.powerW + OVER_TOLERANCE_W;
  const verdict = oscillates
    ? "hunts"
    : settlesOver
      ? "too-high"
      : longestOverS > limit.secondsAllowed
        ? "too-long"
        : "holds";
  return { maxExportW: count === 0 ? 0 : maxExportW, secondsOver, longestOverS, settledExportW, oscillates, verdict };
}

/** The export from a time on, which a recording need not have in order. */
function tailOf({ tS, exportW }: ExportTrace, fromS: number): Float64Array {
  const tail = new Float64Array(tS.length);
  let length = 0;
  for (let at = 0; at < tS.length; at++) if (tS[at]! >= fromS) tail[length++] = exportW[at]!;
  return tail.subarray(0, length);
}

function sumOf(values: Float64Array): number {
  let sum = 0;
  for (let at = 0; at < values.length; at++) sum += values[at]!;
  return sum;
}

/** Whether values swing up and down again by at least so much. */
function swings(values: Float64Array, leastW: number): boolean {
  let turns = 0,
    direction = 0,
    low = Infinity,
    high = -Infinity;
  for (let at = 0; at < values.length; at++) {
    const value = values[at]!;
    low = Math.min(low, value);
    high = Math.max(high, value);
    if (direction <= 0 && value - low >= leastW) {
      if (direction < 0) turns++;
      direction = 1;
      high = value;
      low = value;
    } else if (direction >= 0 && high - value >= leastW) {
      if (direction > 0) turns++;
      direction = -1;
      low = value;
      high = value;
    }
  }
  return turns >= HUNT_TURNS;
}
