import type { DiversionRequest } from "@/core/simulation/diversionSchema";

/** Heat of water, Wh for a litre and a kelvin. */
export const WATER_WH_PER_LITRE_K = 1.163;
/** Water below this is not called hot at the tap, °C. */
export const HOT_C = 40;
const HYGIENE_C = 60;
const ROOM_C = 18;
/** Shares of a day's hot water by the hour. */
const DRAW_BY_HOUR = [0, 0, 0, 0, 0, 1, 4, 6, 4, 2, 1, 1, 2, 2, 1, 1, 1, 2, 4, 5, 4, 3, 1, 0] as const;
const DRAW_TOTAL = DRAW_BY_HOUR.reduce<number>((sum, share) => sum + share, 0);

/**
 * A stirred tank of hot water with its heater, in steps: m c dT/dt = heater − loss · (T − room) − draw · (T − inlet).
 */
export class HotTank {
  /** Of the water, °C. */
  waterC: number;
  litres = 0;
  lossWh = 0;
  drawnWh = 0;
  weeksAt60 = 0;
  private readonly heatWhPerK: number;
  private readonly drawnLitres: Float64Array;
  private hottestC = -Infinity;

  /** @param hourOf The hour of each step of a day. */
  constructor(
    private readonly heater: NonNullable<DiversionRequest["heater"]>,
    private readonly hours: number,
    hourOf: Float64Array,
  ) {
    this.waterC = heater.startC;
    this.heatWhPerK = heater.litres * WATER_WH_PER_LITRE_K;
    this.drawnLitres = hourOf.map(
      (hour) => ((heater.drawLitresADay * (DRAW_BY_HOUR[Math.floor(hour)] ?? 0)) / DRAW_TOTAL) * hours,
    );
  }

  /** What it takes in a step until the thermostat opens, W. */
  roomW(): number {
    return Math.max(0, ((this.heater.thermostatC - this.waterC) * this.heatWhPerK) / this.hours);
  }

  /** What it takes of what it is offered, in steps of its element, W. */
  takesW(offeredW: number, roomW: number): number {
    const { ratedW, steps } = this.heater;
    const powerW = Math.min(offeredW, ratedW, roomW);
    return steps === 0 ? powerW : (Math.floor((powerW * steps) / ratedW + 1e-9) * ratedW) / steps;
  }

  /** What the grid adds in the hours of the boost, W. */
  boostW(heaterW: number): number {
    const { boostToC, ratedW } = this.heater;
    if (this.waterC >= boostToC) return 0;
    return Math.max(0, Math.min(ratedW, ((boostToC - this.waterC) * this.heatWhPerK) / this.hours) - heaterW);
  }

  /** One step with the heater at a power, W. @param at Of the steps of a day. */
  step(heaterW: number, at: number): void {
    const { heater, hours } = this;
    const lossWh = heater.lossWPerK * Math.max(0, this.waterC - ROOM_C) * hours;
    const litresHere = this.drawnLitres[at]!;
    const drawWh = litresHere * WATER_WH_PER_LITRE_K * Math.max(0, this.waterC - heater.inletC);
    if (this.waterC >= HOT_C) this.litres += litresHere;
    this.waterC += (heaterW * hours - lossWh - drawWh) / this.heatWhPerK;
    this.lossWh += lossWh;
    this.drawnWh += drawWh;
    this.hottestC = Math.max(this.hottestC, this.waterC);
  }

  /** A week is over: was the water hot enough once? */
  endWeek(): void {
    if (this.hottestC >= HYGIENE_C) this.weeksAt60++;
    this.hottestC = -Infinity;
  }
}
