import type { ExportLimitRequest } from "@/core/simulation/exportLimitSchema";
import { microseconds } from "@/core/simulation/feedIn/late";

/** Of what comes oftener than so, the last one before each step is all that is seen. */
const MOST_TICKS = 400_000;

/**
 * The times of an export limit at which something happens between two steps, in order, µs: samples and their arrival,
 * the controllers, commands and their arrival, loads and events, the end of an inverter's patience.
 *
 * For example: A controller every 250 ms in steps of 20 ms: 250 000, 750 000, …; in steps of 50 ms: none.
 */
export function betweenSteps(request: ExportLimitRequest): Float64Array {
  const { stepMs, durationS, meter, controller, inverters, battery, diverter, loads, events } = request;
  const endUs = microseconds(durationS * 1000);
  const times = new Set<number>();
  const add = (us: number) => {
    const step = Math.round(us / (stepMs * 1000));
    if (us < endUs && microseconds(step * stepMs) !== us) times.add(us);
  };
  const addEvery = (periodMs: number, delaysMs: Iterable<number>) => {
    const periodUs = microseconds(periodMs);
    if (periodUs <= 0 || endUs / periodUs > MOST_TICKS) return;
    for (const delayMs of new Set(delaysMs)) for (let us = microseconds(delayMs); us < endUs; us += periodUs) add(us);
  };
  const deadTimesMs = inverters.map(({ deadTimeMs }) => deadTimeMs);
  addEvery(meter.samplePeriodMs, [0, meter.delayMs]);
  addEvery(controller.periodMs, [0, ...deadTimesMs]);
  for (const actor of [battery, diverter]) if (actor) addEvery(actor.periodMs, [0]);
  for (const { atS } of loads) add(microseconds(atS * 1000));
  for (const { atS, kind } of events) {
    const atUs = microseconds(atS * 1000);
    add(atUs);
    if (kind !== "meter-lost" && kind !== "meter-back") continue;
    for (const { deadTimeMs, lostMeter } of inverters)
      for (const afterMs of [0, lostMeter?.afterMs ?? 0]) {
        add(atUs + microseconds(afterMs));
        add(atUs + microseconds(afterMs) + microseconds(deadTimeMs));
      }
  }
  return Float64Array.from(times).sort();
}
