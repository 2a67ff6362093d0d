import { medianStep } from "@/core/flows/log/alignLog";
import { askUnit } from "@/core/headerUnit";
import { decimalSignOf, readNumber, withPoint, type DecimalSign } from "@/core/readNumber";

/** How a column of a file is meant. */
export interface LogColumn {
  readonly column: string;
  /** Asked where it is left out. */
  readonly unit?: LogUnit | undefined;
  /** Taken off it: export, where import and export stand in two columns. */
  readonly minus?: string;
  /** What is positive in the file is negative here. */
  readonly isTurned?: boolean;
}

/** Watts, kilowatts, or the kilowatt-hours of each period. */
export type LogUnit = "W" | "kW" | "kWh";

/** Which columns of a file are read: the time, and one for each input and each device that is known. */
export interface LogMapping {
  readonly time: string;
  readonly series: readonly { readonly id: string; readonly from: LogColumn }[];
}

/** Times in s and powers in W by the ids of a mapping, or every row that could not be read. */
export type LogOutcome =
  | {
      readonly kind: "log";
      readonly times: readonly number[];
      readonly series: ReadonlyMap<string, readonly (number | null)[]>;
    }
  | { readonly kind: "bad"; readonly problems: readonly string[] };

const CLOCK = /^(\d{1,2}):(\d{2})(?::(\d{2}(?:\.\d+)?))?$/;
const DATE = /^(\d{4})-(\d{2})-(\d{2})(?:[ T](\d{1,2}):(\d{2})(?::(\d{2}(?:\.\d+)?))?)?(Z|[+-]\d{2}:?\d{2})?$/;
const DAY_FIRST = /^(\d{1,2})[./](\d{1,2})[./](\d{4})(?:[ ,T]+(\d{1,2}):(\d{2})(?::(\d{2}(?:\.\d+)?))?)?$/;
const DAY_S = 86_400;
const FEWEST_ROWS = 3;
const TWO_WAYS = "Its commas can be read in two ways: leave out what stands between thousands";
const WATTS: Readonly<Record<Exclude<LogUnit, "kWh">, number>> = { W: 1, kW: 1000 };

/**
 * Rows of a file as a log: dates, clock times over midnight, or seconds; decimal comma or point; W, kW or kWh of each
 * period; import and export in one column or two. A cell that is empty is a gap; a row without a time is told.
 *
 * For example: `2026-06-01 12:05` with 0,21 kWh in five minutes: 2520 W.
 *
 * @param rows As parsed, by column name.
 */
export function logOfRows(rows: readonly Readonly<Record<string, string>>[], mapping: LogMapping): LogOutcome {
  const problems = mapping.series.flatMap(({ from }) => (from.unit === undefined ? [askUnit(from.column)] : []));
  const timesRead = timesOf(
    rows.map((row) => row[mapping.time] ?? ""),
    problems,
  );
  const columns = [
    ...new Set(mapping.series.flatMap(({ from }) => (from.minus ? [from.column, from.minus] : [from.column]))),
  ];
  const numbers = new Map(columns.map((name) => [name, numbersOf(rows, name, problems)]));
  if (problems.length > 0) return { kind: "bad", problems };
  const order = [...timesRead.keys()].toSorted((a, b) => timesRead[a]! - timesRead[b]!);
  const kept = order.filter((row, at) => at === 0 || timesRead[row]! > timesRead[order[at - 1]!]!);
  if (kept.length < FEWEST_ROWS)
    return { kind: "bad", problems: ["A log has at least three rows with different times"] };
  const times = kept.map((row) => timesRead[row]!);
  const usualS = medianStep(times);
  const series = new Map(
    mapping.series.map(({ id, from }) => [
      id,
      kept.map((row, at): number | null => {
        const [plus, minus] = [numbers.get(from.column)![row]!, from.minus ? numbers.get(from.minus)![row]! : 0];
        if (plus === null || minus === null) return null;
        const periodS = at === 0 ? usualS : times[at]! - times[at - 1]!;
        const perUnit = from.unit === "kWh" ? 3.6e6 / periodS : WATTS[from.unit ?? "W"];
        return (plus - minus) * perUnit * (from.isTurned ? -1 : 1);
      }),
    ]),
  );
  return { kind: "log", times, series };
}

/** Seconds of every row; clock times go on over midnight. */
function timesOf(texts: readonly string[], problems: string[]): readonly number[] {
  const sign = decimalSignOf(texts.filter((text) => !/[:/-]/.test(text))) ?? "point";
  let [day, before] = [0, -Infinity];
  return texts.map((text, at) => {
    const read = secondsOf(text.trim(), sign);
    if (read === undefined) {
      problems.push(`Row ${at + 2}: “${text}” is no time`);
      return 0;
    }
    if (!read.isClock) return read.seconds;
    if (read.seconds < before) day++;
    before = read.seconds;
    return day * DAY_S + read.seconds;
  });
}

function secondsOf(
  text: string,
  sign: DecimalSign,
): { readonly seconds: number; readonly isClock: boolean } | undefined {
  const clock = CLOCK.exec(text);
  if (clock) return { seconds: 3600 * Number(clock[1]) + 60 * Number(clock[2]) + Number(clock[3] ?? 0), isClock: true };
  const date = DATE.exec(text);
  if (date) {
    const [, year, month, day, hour = "0", minute = "0", second = "0", zone] = date;
    const own = utcS([year!, month!, day!, hour, minute, second]);
    return { seconds: own - zoneS(zone), isClock: false };
  }
  const european = DAY_FIRST.exec(text);
  if (european) {
    const [, day, month, year, hour = "0", minute = "0", second = "0"] = european;
    return { seconds: utcS([year!, month!, day!, hour, minute, second]), isClock: false };
  }
  const read = readNumber(withPoint(text, sign), "point");
  return read.kind === "number" ? { seconds: read.value, isClock: false } : undefined;
}

function utcS(parts: readonly string[]): number {
  const [year, month, day, hour, minute, second] = parts.map(Number);
  return Date.UTC(year!, month! - 1, day!, hour!, minute!) / 1000 + second!;
}

/** Of "+01:00", s. */
function zoneS(zone: string | undefined): number {
  if (zone === undefined || zone === "Z") return 0;
  const digits = zone.replace(/[^\d]/g, "");
  return (zone.startsWith("-") ? -1 : 1) * (3600 * Number(digits.slice(0, 2)) + 60 * Number(digits.slice(2, 4)));
}

/** The numbers of a column; an empty cell is a gap. */
function numbersOf(
  rows: readonly Readonly<Record<string, string>>[],
  name: string,
  problems: string[],
): readonly (number | null)[] {
  const texts = rows.map((row) => (row[name] ?? "").trim());
  const sign = decimalSignOf(texts);
  if (sign === undefined) {
    problems.push(`Column ${name}: ${TWO_WAYS}`);
    return [];
  }
  return texts.map((text, at) => {
    if (text === "") return null;
    const read = readNumber(withPoint(text, sign), "point");
    if (read.kind === "number") return read.value;
    problems.push(`Row ${at + 2}, ${name}: “${text}” is no number`);
    return null;
  });
}
