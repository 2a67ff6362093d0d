import { expectedReadings } from "@/core/flows/expectedReadings";
import type { Fault } from "@/core/flows/faults";
import { alignLog } from "@/core/flows/log/alignLog";
import { backgroundOf, type ReadingLog } from "@/core/flows/log/logSchema";
import type { TestSheet } from "@/core/flows/testSheetSchema";
import type { Site } from "@/core/site/planSchema";

/** Rows that are worked out at most: more than a chart has room for tell nothing. */
const MOST_ROWS = 240;

/** What one input read over a log, and what a right fitting would have shown; gaps are null. */
export interface ExpectedSeries {
  readonly meter: string;
  readonly input: number;
  readonly times: readonly number[];
  readonly readW: readonly (number | null)[];
  readonly expectedW: readonly number[];
  /** Half-width of the band that holds 19 of 20 right readings. */
  readonly bandW: readonly number[];
  /** Rows that lie outside it. */
  readonly outside: number;
}

/**
 * Row by row what every input should have read, with its band: what is known of sun and battery as it was, and the
 * house as the readings of that row tell, taken with the faults that explain the log. Where nothing explains it yet the
 * house may draw whatever it usually does, and the band is wide. Long logs are thinned evenly.
 *
 * For example: A reversed input that reads −1200 W at noon: expected 1200 ± 40 W, outside.
 *
 * @param explainedBy The faults that the log was found to have; undefined while it is not certain.
 */
export function expectedLog(
  site: Site,
  log: ReadingLog,
  explainedBy: readonly Fault[] | undefined,
): readonly ExpectedSeries[] {
  const readings = alignLog(log).readings;
  const every = Math.max(1, Math.ceil(log.times.length / MOST_ROWS));
  const rows = log.times
    .map((_, row) => row)
    .filter((row) => row % every === 0 && log.known.every(({ powerW }) => powerW[row] !== null));
  const expected = rows.map((row) => expectedReadings(site, sheetOfRow(site, log, readings, row), explainedBy)[0]!);
  return readings.map(({ meter, input, powerW }): ExpectedSeries => {
    const own = expected.map((all) => all.find((other) => other.meter === meter && other.input === input)!);
    const readW = rows.map((row) => powerW[row] ?? null);
    return {
      meter,
      input,
      times: rows.map((row) => log.times[row]!),
      readW,
      expectedW: own.map(({ meanW }) => meanW),
      bandW: own.map(({ bandW }) => bandW),
      outside: own.filter(({ meanW, bandW }, at) => readW[at] !== null && Math.abs(readW[at]! - meanW) > bandW).length,
    };
  });
}

function sheetOfRow(site: Site, log: ReadingLog, readings: ReadingLog["readings"], row: number): TestSheet {
  const devices = log.known.map(({ node, powerW, tolerancePct, toleranceW }) => ({
    node,
    powerW: powerW[row]!,
    reactiveVar: 0,
    toleranceW: Math.hypot(toleranceW, (tolerancePct / 100) * powerW[row]!),
  }));
  const read = readings.flatMap(({ meter, input, powerW }) => {
    const watts = powerW[row] ?? null;
    return watts === null ? [] : [{ meter, input, powerW: watts }];
  });
  return {
    steps: [{ label: "row", devices, readings: read, source: "seen" }],
    background: [...backgroundOf(log, site)],
    noise: log.noise,
    maxFaults: log.maxFaults,
  };
}
