import { decimalSignOf, readNumber, withPoint, type DecimalSign } from "@/core/readNumber";

const FEWEST = 12;
const MOST_W = 1e7;

/** Values at each step, W, or what could not be read. */
export type SeriesOutcome =
  { readonly kind: "series"; readonly values: readonly number[] } | { readonly kind: "bad"; readonly message: string };

/**
 * The last column of a file as values in W over an even stretch of time, brought to a number of steps; a heading is
 * passed over. Each step takes the value that stands for its time.
 *
 * For example: 24 values for 1440 steps: each stands for an hour.
 *
 * @param rows As parsed, without names.
 */
export function seriesOfValues(rows: readonly (readonly string[])[], steps: number): SeriesOutcome {
  const texts = rows.map((row) => row.at(-1) ?? "");
  const decimal = decimalSignOf(texts);
  if (decimal === undefined)
    return { kind: "bad", message: "its commas can be read in two ways: leave out what stands between thousands" };
  const read = texts.map((text) => numberOf(text, decimal));
  const body = Number.isNaN(read[0]) ? read.slice(1) : read;
  const bad = body.findIndex((value) => Number.isNaN(value) || value < 0 || value > MOST_W);
  if (bad >= 0)
    return { kind: "bad", message: `row ${bad + 1 + (body.length < read.length ? 1 : 0)} is no power in W from 0 up` };
  if (body.length < FEWEST) return { kind: "bad", message: `${body.length} values; a day has at least ${FEWEST}` };
  return {
    kind: "series",
    values: Array.from(
      { length: steps },
      (_, at) => body[Math.min(body.length - 1, Math.floor((at * body.length) / steps))]!,
    ),
  };
}

function numberOf(text: string, decimal: DecimalSign): number {
  const read = readNumber(withPoint(text, decimal), "point");
  return read.kind === "number" ? read.value : NaN;
}
