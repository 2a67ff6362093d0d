import type { DiversionRequest } from "@/core/simulation/diversionSchema";
import { isWithin } from "@/core/simulation/diversion/dayHours";

/** A vehicle at its charger, in steps: it takes at least its least current or nothing, and drives once a day. */
export class ParkedVehicle {
  private heldWh: number;
  /** What charging leaves of the energy that is drawn. */
  private readonly kept: number;
  private readonly capacityWh: number;
  private readonly leastW: number;
  private readonly mostW: number;
  private readonly tripWh: number;
  private readonly leavesAt: number;
  private readonly isPlugged: Float64Array;

  /** @param hourOf The hour of each step of a day. */
  constructor(
    private readonly vehicle: NonNullable<DiversionRequest["vehicle"]>,
    private readonly hours: number,
    stepMin: number,
    hourOf: Float64Array,
  ) {
    this.leastW = vehicle.minA * vehicle.voltageV * vehicle.phases;
    this.mostW = vehicle.maxA * vehicle.voltageV * vehicle.phases;
    this.tripWh = (vehicle.kmADay * vehicle.kwhPer100km * 1000) / 100;
    this.kept = vehicle.efficiencyPct / 100;
    this.capacityWh = vehicle.capacityKwh * 1000;
    this.heldWh = this.capacityWh / 2;
    this.leavesAt = Math.round((vehicle.pluggedToH * 60) / stepMin) % hourOf.length;
    this.isPlugged = hourOf.map((hour) => Number(isWithin(hour, vehicle.pluggedFromH, vehicle.pluggedToH)));
  }

  /** What it takes of what it is offered, W. @param at Of the steps of a day. */
  takesW(offeredW: number, at: number): number {
    if (this.isPlugged[at] !== 1) return 0;
    const takesW = Math.min(offeredW, this.mostW, (this.capacityWh - this.heldWh) / this.hours / this.kept);
    return takesW >= this.leastW ? takesW : 0;
  }

  /** What the grid adds at night for the next day's way, W. @param at Of the steps of a day. */
  nightW(vehicleW: number, at: number): number {
    if (this.isPlugged[at] !== 1 || this.heldWh >= this.tripWh) return 0;
    return Math.max(0, Math.min(this.mostW, (this.tripWh - this.heldWh) / this.hours / this.kept) - vehicleW);
  }

  /** One step at a power, W. @param at Of the steps of a day. */
  step(vehicleW: number, at: number): void {
    this.heldWh += vehicleW * this.hours * this.kept;
    if (at === this.leavesAt) this.heldWh = Math.max(0, this.heldWh - this.tripWh);
  }

  /** How far so much energy takes it, km. */
  km(kwh: number): number {
    return (kwh * this.kept * 100) / this.vehicle.kwhPer100km;
  }
}
