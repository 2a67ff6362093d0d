import { houseSeriesInSlices } from "@/core/simulation/house";
import { simulateDiversionInSlices, type DiversionSeries } from "@/core/simulation/diversion/simulateDiversion";
import type { DiversionRequest, DiversionResult, SurplusActor } from "@/core/simulation/diversionSchema";
import { sunSeriesInSlices } from "@/core/simulation/sun";
import { inOneGo, withProgress, type Slices } from "@/core/slices";

const MOST_POINTS = 144;
const MINUTES_A_DAY = 1440;

/**
 * Surplus orders side by side over a day, a week or a year, with the same sun and the same house for all; and the flows
 * of the first order, where they are asked for. In slices, with the share of the orders that is done.
 *
 * For example: `diversion({ days: 1, orders: [["battery", "heater"], ["heater", "battery"]], … }).totals.length` gives
 * 2
 */
export function* diversionInSlices(request: DiversionRequest): Slices<DiversionResult, number> {
  const { days, stepMin } = request;
  const sunW = request.sunW
    ? Float64Array.from(request.sunW)
    : yield* withProgress(
        sunSeriesInSlices(
          request.place,
          request.fields,
          request.firstDay,
          days,
          stepMin,
          request.cloudiness,
          request.seed,
        ),
        0,
      );
  const houseW = request.houseW
    ? Float64Array.from(request.houseW)
    : yield* withProgress(
        houseSeriesInSlices(request.house.archetype, request.house.kwhYear, days, stepMin, request.seed + 7),
        0,
      );
  yield 0;
  const totals: DiversionResult["totals"] = [];
  let kept: DiversionSeries | undefined;
  for (const [at, order] of request.orders.entries()) {
    if (request.series && at === 0) kept = emptySeries(sunW.length);
    const simulation = simulateDiversionInSlices(request, sunW, houseW, order, at === 0 ? kept : undefined);
    totals.push(yield* withProgress(simulation, at / request.orders.length));
    yield (at + 1) / request.orders.length;
  }
  return { totals, ...(kept ? { series: thinned(kept, sunW, houseW, stepMin) } : {}) };
}

/** The same in one go. */
export function diversion(request: DiversionRequest): DiversionResult {
  return inOneGo(diversionInSlices(request));
}

/**
 * Every order of the actors that there are.
 *
 * @example surplusOrders(["battery", "heater"]) // [["battery", "heater"], ["heater", "battery"]]
 */
export function surplusOrders(actors: readonly SurplusActor[]): readonly SurplusActor[][] {
  if (actors.length === 0) return [[]];
  return actors.flatMap((first) =>
    surplusOrders(actors.filter((other) => other !== first)).map((rest) => [first, ...rest]),
  );
}

function emptySeries(count: number): DiversionSeries {
  const array = () => new Float64Array(count);
  return {
    batteryW: array(),
    heaterW: array(),
    vehicleW: array(),
    gridW: array(),
    seenW: array(),
    socPct: array(),
    tankC: array(),
  };
}

/** Means over as many steps as it takes to be drawn. */
function thinned(
  kept: DiversionSeries,
  sunW: Float64Array,
  houseW: Float64Array,
  stepMin: number,
): DiversionResult["series"] {
  const every = Math.max(1, Math.ceil(sunW.length / MOST_POINTS));
  const starts = Array.from({ length: Math.ceil(sunW.length / every) }, (_, at) => at * every);
  const of = (values: Float64Array) =>
    starts.map((start) => {
      const end = Math.min(values.length, start + every);
      let sum = 0;
      for (let at = start; at < end; at++) sum += values[at]!;
      return Math.round((10 * sum) / (end - start)) / 10;
    });
  return {
    hour: starts.map((start) => (24 * start * stepMin) / MINUTES_A_DAY),
    sunW: of(sunW),
    houseW: of(houseW),
    batteryW: of(kept.batteryW),
    heaterW: of(kept.heaterW),
    vehicleW: of(kept.vehicleW),
    gridW: of(kept.gridW),
    seenW: of(kept.seenW),
    socPct: of(kept.socPct),
    tankC: of(kept.tankC),
  };
}
