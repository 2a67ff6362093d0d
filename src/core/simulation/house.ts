import { seededUniform } from "@/core/random";
import { inOneGo, type Slices } from "@/core/slices";

const MINUTES_A_DAY = 1440;

/** Who lives there, as shares of a day's use by the hour. */
export const ARCHETYPES = {
  "working-couple": {
    name: "Working couple",
    hours: [2, 2, 2, 2, 2, 3, 6, 7, 4, 2, 2, 2, 2, 2, 2, 2, 3, 6, 9, 9, 8, 7, 5, 3],
  },
  family: { name: "Family", hours: [2, 2, 2, 2, 2, 3, 6, 8, 6, 4, 3, 3, 4, 3, 3, 4, 6, 8, 9, 8, 7, 5, 4, 3] },
  "home-all-day": {
    name: "At home all day",
    hours: [2, 2, 2, 2, 2, 2, 3, 5, 6, 6, 6, 6, 7, 6, 5, 5, 5, 6, 7, 6, 5, 4, 3, 2],
  },
  workshop: {
    name: "Workshop by day",
    hours: [1, 1, 1, 1, 1, 1, 3, 8, 10, 10, 10, 9, 6, 9, 10, 10, 8, 4, 2, 1, 1, 1, 1, 1],
  },
} as const;

/** A kind of household. */
export type Archetype = keyof typeof ARCHETYPES;

/** Things that are switched on for a while: W, min, how often in a day. */
const APPLIANCES = [
  { powerW: 2200, lastsMin: 4, aDay: 5 },
  { powerW: 1800, lastsMin: 25, aDay: 1.6 },
  { powerW: 2000, lastsMin: 12, aDay: 1.2 },
] as const;
const APPLIANCE_SHARE = 0.35;

/**
 * What a house draws over days, W at each step: a smooth course by the hour, and appliances that come and go, seeded;
 * the year's sum is as asked.
 *
 * @example houseSeries("family", 4000, 365, 1, 1).length // 525600: together 4000 kWh
 */
export function houseSeries(
  archetype: Archetype,
  kwhYear: number,
  days: number,
  stepMin: number,
  seed: number,
): Float64Array {
  return inOneGo(houseSeriesInSlices(archetype, kwhYear, days, stepMin, seed));
}

/** `houseSeries` in slices. */
export function* houseSeriesInSlices(
  archetype: Archetype,
  kwhYear: number,
  days: number,
  stepMin: number,
  seed: number,
): Slices<Float64Array> {
  const { hours } = ARCHETYPES[archetype];
  const perDay = Math.round(MINUTES_A_DAY / stepMin);
  const series = new Float64Array(days * perDay);
  const uniform = seededUniform(seed);
  const total = hours.reduce((sum, share) => sum + share, 0);
  const dayWh = (1000 * kwhYear) / 365;
  const smoothWh = dayWh * (1 - APPLIANCE_SHARE);
  // A day's draw by the hour, in straight lines between their middles.
  const course = new Float64Array(perDay);
  for (let at = 0; at < perDay; at++) {
    const hour = (at * stepMin) / 60 - 0.5;
    const before = (Math.floor(hour) + 24) % 24;
    const part = hour - Math.floor(hour);
    course[at] = (smoothWh * (hours[before]! * (1 - part) + hours[(before + 1) % 24]! * part)) / total;
  }
  yield;
  for (let day = 0; day < days; day++) series.set(course, day * perDay);
  yield;
  for (const { powerW, lastsMin, aDay } of APPLIANCES) {
    for (let switched = 0; switched < Math.round(aDay * days); switched++) {
      const day = Math.floor(uniform() * days);
      const hour = pick(hours, total, uniform());
      const from = day * perDay + Math.floor(((hour + uniform()) * 60) / stepMin);
      for (let at = from; at < Math.min(series.length, from + Math.max(1, Math.round(lastsMin / stepMin))); at++)
        series[at] = series[at]! + powerW;
    }
  }
  yield;
  let sumW = 0;
  for (let at = 0; at < series.length; at++) sumW += series[at]!;
  yield;
  const scale = (dayWh * days) / (sumW * (stepMin / 60));
  for (let at = 0; at < series.length; at++) series[at] = series[at]! * scale;
  return series;
}

function pick(hours: readonly number[], total: number, at: number): number {
  let left = at * total;
  for (let hour = 0; hour < hours.length; hour++) {
    left -= hours[hour]!;
    if (left <= 0) return hour;
  }
  return hours.length - 1;
}
