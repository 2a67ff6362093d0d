import { HOT_C, WATER_WH_PER_LITRE_K } from "@/core/simulation/diversion/tank";
import type { DiversionRequest, DiversionTotals } from "@/core/simulation/diversionSchema";

/** Of an order, what is compared. */
export type ComparedOrder = Pick<DiversionTotals, "hotLitres" | "km" | "money">;

/** What an order costs where it gives as much hot water and as many kilometres as the best of them. */
export interface EqualService {
  /** The bill, and what is missing bought from the grid. */
  readonly money: number;
  /** Hot water that is missing, l. */
  readonly missingLitres: number;
  /** Kilometres that are missing. */
  readonly missingKm: number;
}

/**
 * Orders on equal terms: an order that leaves the water cold or the vehicle standing is not cheaper, it does less. What
 * is missing to the most of each is bought at the day tariff: C = C₀ + p · (ΔV · c · (40 °C − T_in) + Δs · e / η).
 *
 * For example: 100 l less hot water than the best, cold water at 10 °C, 0.32 a kWh: 3.49 kWh, 1.12 more.
 *
 * @param totals Of orders with the same sun and house.
 */
export function equalService(
  totals: readonly ComparedOrder[],
  { heater, vehicle, tariff }: Pick<DiversionRequest, "heater" | "vehicle" | "tariff">,
): readonly EqualService[] {
  const mostLitres = Math.max(0, ...totals.map(({ hotLitres }) => hotLitres));
  const mostKm = Math.max(0, ...totals.map(({ km }) => km));
  const kwhPerLitre = heater ? (WATER_WH_PER_LITRE_K * Math.max(0, HOT_C - heater.inletC)) / 1000 : 0;
  const kwhPerKm = vehicle ? vehicle.kwhPer100km / vehicle.efficiencyPct : 0;
  return totals.map(({ money, hotLitres, km }) => {
    const missingLitres = mostLitres - hotLitres;
    const missingKm = mostKm - km;
    const boughtKwh = missingLitres * kwhPerLitre + missingKm * kwhPerKm;
    return { money: money + tariff.importPerKwh * boughtKwh, missingLitres, missingKm };
  });
}
