import type { DiversionRequest } from "@/core/simulation/diversionSchema";

/** A battery in steps: what it holds, Wh, and what it can take and give. Half of its loss is on the way in. */
export class StoredEnergy {
  /** Wh that it holds. */
  heldWh: number;
  private readonly startWh: number;
  private readonly capacityWh: number;
  private readonly leastWh: number;
  private readonly oneWay: number;
  private readonly powerW: number;

  constructor(
    battery: NonNullable<DiversionRequest["battery"]>,
    private readonly hours: number,
  ) {
    this.powerW = battery.powerW;
    this.oneWay = Math.sqrt(battery.efficiencyPct / 100);
    this.capacityWh = battery.capacityKwh * 1000;
    this.leastWh = (this.capacityWh * battery.minSocPct) / 100;
    this.startWh = Math.max(this.leastWh, (this.capacityWh * battery.startSocPct) / 100);
    this.heldWh = this.startWh;
  }

  /** What it takes of what it is offered, W. */
  takesW(offeredW: number): number {
    return Math.min(offeredW, this.powerW, (this.capacityWh - this.heldWh) / (this.oneWay * this.hours));
  }

  /** The most that it gives for a whole step, W. */
  givableW(): number {
    return Math.min(this.powerW, ((this.heldWh - this.leastWh) * this.oneWay) / this.hours);
  }

  /** One step at a power, W; positive when charging. */
  step(powerW: number): void {
    this.heldWh += powerW >= 0 ? powerW * this.hours * this.oneWay : (powerW * this.hours) / this.oneWay;
  }

  socPct(): number {
    return this.capacityWh > 0 ? (100 * this.heldWh) / this.capacityWh : 0;
  }

  /** More than at the start, kWh. */
  gainedKwh(): number {
    return (this.heldWh - this.startWh) / 1000;
  }
}
