import { z } from "zod";
import { diversionRequestSchema } from "@/core/simulation/diversionSchema";
import { houseSeries } from "@/core/simulation/house";
import { sunSeries } from "@/core/simulation/sun";

const YEAR_DAYS = 365;
const STEP_MIN = 5;

const shape = diversionRequestSchema.shape;

/** What a year of a limit is costed by. */
export const limitCostRequestSchema = z.object({
  place: shape.place,
  fields: shape.fields,
  cloudiness: shape.cloudiness,
  seed: shape.seed,
  house: shape.house,
  limitW: z.number().min(0),
  setPointW: z.number().min(0),
  /** Shares of the house's draw by phase. */
  houseOnPhase: z.array(z.number().min(0).max(1)).max(3),
});

/** Sun, house and limit, W. */
export type LimitCostRequest = z.output<typeof limitCostRequestSchema>;

/** What a limit takes in a year, kWh. */
export interface LimitCost {
  readonly sunKwh: number;
  /** Not made because of the limit itself. */
  readonly limitKwh: number;
  /** Not made because the set-point is below it. */
  readonly marginKwh: number;
  /** Not made because the limit is on each phase and not on the sum. */
  readonly perPhaseKwh: number;
}

/**
 * What a limit and its margin cost a year, by a simulated one: export above the limit, between set-point and limit,
 * and, for
 * a house that draws mostly on one phase, by limiting each phase.
 *
 * For example: A limit above everything that is ever exported: nothing.
 */
export function limitCost(request: LimitCostRequest): LimitCost {
  const { limitW, setPointW, houseOnPhase } = request;
  const sunW = sunSeries(request.place, request.fields, 1, YEAR_DAYS, STEP_MIN, request.cloudiness, request.seed);
  const houseW = houseSeries(request.house.archetype, request.house.kwhYear, YEAR_DAYS, STEP_MIN, request.seed + 7);
  let sun = 0,
    limited = 0,
    margin = 0,
    perPhase = 0;
  const count = Math.max(1, houseOnPhase.length);
  for (let at = 0; at < sunW.length; at++) {
    const exported = Math.max(0, sunW[at]! - houseW[at]!);
    const overLimit = Math.max(0, exported - limitW);
    const overSetPoint = Math.max(0, exported - setPointW);
    sun += sunW[at]!;
    limited += overLimit;
    margin += overSetPoint - overLimit;
    let worst = -Infinity;
    for (const share of houseOnPhase) worst = Math.max(worst, sunW[at]! / count - houseW[at]! * share);
    perPhase += Math.max(0, Math.min(sunW[at]!, Math.max(0, worst - setPointW / count) * count) - overSetPoint);
  }
  const kwh = STEP_MIN / 60 / 1000;
  return { sunKwh: sun * kwh, limitKwh: limited * kwh, marginKwh: margin * kwh, perPhaseKwh: perPhase * kwh };
}
