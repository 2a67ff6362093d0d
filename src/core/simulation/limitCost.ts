import { z } from "zod";
import { diversionRequestSchema } from "@/core/simulation/diversionSchema";
import { houseSeries } from "@/core/simulation/house";
import { sunSeries } from "@/core/simulation/sun";

const YEAR_DAYS = 365;
const STEP_MIN = 5;
const LEAST_KWH = 1e-6;

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
  /** What limit and set-point are on. */
  basis: z.enum(["sum", "per-phase"]).default("sum"),
  /** Shares of the house's draw by phase. */
  houseOnPhase: z.array(z.number().min(0).max(1)).max(3),
  /** Shares of what the inverters make by phase; even where left out. */
  sunOnPhase: z.array(z.number().min(0).max(1)).max(3).optional(),
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
  /** Not made because the limit is on each phase and not on the sum of as much. */
  readonly perPhaseKwh: number;
  /** As much as all phases at the limit let out is more than was ever made. */
  readonly holdsAll: boolean;
}

/**
 * What a limit and its margin cost a year, by a simulated one: what is not made under the limit, what is not made
 * between set-point and limit, and, for a house that draws mostly on one phase, what limiting each phase takes beside
 * limiting the sum. The inverters are held back together, so that the worst phase of a limit on each decides.
 *
 * For example: A limit above everything that is ever exported: nothing.
 */
export function limitCost(request: LimitCostRequest): LimitCost {
  const { limitW, setPointW, houseOnPhase, basis } = request;
  const sunW = sunSeries(request.place, request.fields, 1, YEAR_DAYS, STEP_MIN, request.cloudiness, request.seed);
  const houseW = houseSeries(request.house.archetype, request.house.kwhYear, YEAR_DAYS, STEP_MIN, request.seed + 7);
  const count = Math.max(1, houseOnPhase.length);
  const sunOnPhase = request.sunOnPhase ?? houseOnPhase.map(() => 1 / count);
  const onSum = (madeW: number, drawnW: number, mostW: number) => Math.min(madeW, Math.max(0, mostW) + drawnW);
  const onEach = (madeW: number, drawnW: number, mostW: number) =>
    houseOnPhase.reduce((least, share, phase) => {
      const sunShare = sunOnPhase[phase] ?? 0;
      return sunShare > 0 ? Math.min(least, (Math.max(0, mostW) + drawnW * share) / sunShare) : least;
    }, madeW);
  let [sun, limited, margin, perPhase, most] = [0, 0, 0, 0, 0];
  for (let at = 0; at < sunW.length; at++) {
    const [made, drawn] = [sunW[at]!, houseW[at]!];
    // Where the sum is limited, each phase would get its share of that.
    const [sumLimitW, eachLimitW] = basis === "sum" ? [limitW, limitW / count] : [limitW * count, limitW];
    const [sumSetW, eachSetW] = basis === "sum" ? [setPointW, setPointW / count] : [setPointW * count, setPointW];
    const underLimit = basis === "sum" ? onSum(made, drawn, sumLimitW) : onEach(made, drawn, eachLimitW);
    const underSetPoint = basis === "sum" ? onSum(made, drawn, sumSetW) : onEach(made, drawn, eachSetW);
    sun += made;
    most = Math.max(most, made);
    limited += made - underLimit;
    margin += underLimit - underSetPoint;
    perPhase += Math.max(0, onSum(made, drawn, sumSetW) - onEach(made, drawn, eachSetW));
  }
  const kwh = STEP_MIN / 60 / 1000;
  return {
    sunKwh: sun * kwh,
    limitKwh: tidy(limited * kwh),
    marginKwh: tidy(margin * kwh),
    perPhaseKwh: tidy(perPhase * kwh),
    holdsAll: most <= (basis === "sum" ? limitW : limitW * count),
  };
}

/** What rounding leaves of nothing is nothing. */
function tidy(kwh: number): number {
  return kwh < LEAST_KWH ? 0 : kwh;
}
