import type { ReadingLog } from "@/core/flows/log/logSchema";

/** How far a meter's readings or a clock are looked for, rows either way. */
const MOST_ROWS = 8;
/**
 * Looked for at so many moments a row. Where clouds change from row to row, readings that are half a row late go along
 * with two whole rows no better than they go against the rows beside those.
 */
const MOMENTS = 2;
const STILL = MOMENTS * MOST_ROWS;
/** Another moment must fit by so much better than none, or nothing is moved. */
const CLEARLY_BETTER = 1.1;
/** What hardly follows the known changes at any moment says nothing of its time. */
const LEAST_TOGETHER = 0.3;
const FEWEST_CHANGES = 8;

/** What a meter's readings were late against what is known, s; positive where they come later. */
export interface MeterLag {
  readonly meter: string;
  readonly seconds: number;
}

/** A log whose meters show what was so at the same times. */
export interface AlignedLog {
  readonly readings: ReadingLog["readings"];
  readonly lags: readonly MeterLag[];
}

/**
 * The readings of each meter moved to the times of what is known: the shift at which its changes and the known ones go
 * together best, whichever way round, between rows too. A clock that is off by minutes is such a shift of all.
 *
 * For example: A meter whose portal shows every value ten minutes late: seconds 600.
 */
export function alignLog(log: ReadingLog): AlignedLog {
  const meters = [...new Set(log.readings.map(({ meter }) => meter))];
  const stepS = medianStep(log.times);
  const lags = meters.map((meter): MeterLag => ({ meter, seconds: lagOf(log, meter, stepS) }));
  return {
    readings: log.readings.map((own) => {
      const { seconds } = lags.find(({ meter }) => meter === own.meter)!;
      return seconds === 0
        ? own
        : { ...own, powerW: log.times.map((time) => valueAt(log.times, own.powerW, time + seconds)) };
    }),
    lags: lags.filter(({ seconds }) => seconds !== 0),
  };
}

function lagOf({ times, readings, known }: ReadingLog, meter: string, stepS: number): number {
  const own = readings.filter((reading) => reading.meter === meter);
  const pairs = known.flatMap(({ powerW }) => own.map((input) => [powerW, input.powerW] as const));
  const shifts = Array.from({ length: 2 * STILL + 1 }, (_, at) => ((at - STILL) * stepS) / MOMENTS);
  const each = shifts.map((shiftS) => pairs.map(([source, read]) => together(times, source, read, shiftS)));
  const scores = each.map((signed) => signed.reduce((sum, value) => sum + Math.abs(value), 0));
  const best = scores.indexOf(Math.max(...scores));
  const still = scores[STILL]!;
  if (!(scores[best]! > LEAST_TOGETHER) || scores[best]! < CLEARLY_BETTER * still) return 0;
  // Between two moments: the top of the parabola through the best and its neighbours, each pair the way round it has
  // there: what goes against it beside the best must not count as going with it.
  const signs = each[best]!.map(Math.sign);
  const beside = (at: number) => (each[at] ?? []).reduce((sum, value, pair) => sum + signs[pair]! * value, 0);
  const [before, top, after] = [beside(best - 1), scores[best]!, beside(best + 1)];
  const bend = before - 2 * top + after;
  const between = bend < 0 ? Math.max(-0.5, Math.min(0.5, (0.5 * (before - after)) / bend)) : 0;
  return Math.round(((best - STILL + between) * stepS) / MOMENTS);
}

/**
 * How much two series change together, -1 to 1, with the second one moved back in time; 0 where hardly anything
 * changes.
 */
function together(
  times: readonly number[],
  known: readonly (number | null)[],
  read: readonly (number | null)[],
  shiftS: number,
): number {
  let [product, ownSum, readSum, count] = [0, 0, 0, 0];
  let before: number | null = null;
  for (let row = 0; row < times.length; row++) {
    const now = valueAt(times, read, times[row]! + shiftS);
    const [a, b] = [known[row - 1] ?? null, known[row] ?? null];
    if (a !== null && b !== null && before !== null && now !== null) {
      product += (b - a) * (now - before);
      ownSum += (b - a) ** 2;
      readSum += (now - before) ** 2;
      if (b !== a) count++;
    }
    before = now;
  }
  return count < FEWEST_CHANGES || ownSum === 0 || readSum === 0 ? 0 : product / Math.sqrt(ownSum * readSum);
}

/** A series at a time between its rows; null outside it and beside a gap. */
function valueAt(times: readonly number[], values: readonly (number | null)[], time: number): number | null {
  let [low, high] = [0, times.length - 1];
  if (time < times[low]! || time > times[high]!) return null;
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (times[middle]! <= time) low = middle;
    else high = middle;
  }
  const [a, b] = [values[low] ?? null, values[high] ?? null];
  if (time === times[low]) return a;
  if (time === times[high]) return b;
  if (a === null || b === null) return null;
  return a + ((b - a) * (time - times[low]!)) / (times[high]! - times[low]!);
}

/** The usual time between two rows, s. */
export function medianStep(times: readonly number[]): number {
  const steps = times.slice(1).map((time, at) => time - times[at]!);
  return steps.toSorted((a, b) => a - b)[Math.floor(steps.length / 2)] ?? 1;
}
