import { StoredEnergy } from "@/core/simulation/diversion/battery";
import { isWithin } from "@/core/simulation/diversion/dayHours";
import { balancedW, seenSurplusW } from "@/core/simulation/diversion/flowSight";
import { FlowLedger } from "@/core/simulation/diversion/ledger";
import { HotTank } from "@/core/simulation/diversion/tank";
import { ParkedVehicle } from "@/core/simulation/diversion/vehicle";
import type { DiversionRequest, DiversionTotals, FlowSight, SurplusActor } from "@/core/simulation/diversionSchema";
import { inOneGo, type Slices } from "@/core/slices";

const MINUTES_A_DAY = 1440;
const MINUTES_A_WEEK = 7 * MINUTES_A_DAY;
/** Between two slices: about 5 ms on one usual core. */
const STEPS_A_SLICE = 12_000;

/** Flows at every step, W; a battery that gives and a grid that takes are negative. */
export interface DiversionSeries {
  readonly batteryW: Float64Array;
  readonly heaterW: Float64Array;
  readonly vehicleW: Float64Array;
  readonly gridW: Float64Array;
  /** The grid as the first controller with a sight of its own takes it to be; as it is, where there is none. */
  readonly seenW: Float64Array;
  readonly socPct: Float64Array;
  readonly tankC: Float64Array;
}

type Surplus = Pick<
  DiversionRequest,
  "stepMin" | "days" | "firstDay" | "battery" | "heater" | "vehicle" | "tariff" | "sharedCt" | "sight"
>;

/**
 * Where the surplus goes, step by step: sun less house is offered to each actor in turn; the battery covers what is
 * missing; the vehicle and a boost take from the grid in their hours. At every step sun + grid = house + battery +
 * heater + vehicle. Where heater and battery act on one grid CT and the heater is content with more import than the
 * battery holds, the battery feeds the heater. An actor with a sight of its own acts on the surplus that its meter
 * shows, not on the one that is there, until its own share in that sum balances it.
 *
 * @param keep Filled with the flows of every step, where they are wanted.
 */
export function simulateDiversion(
  surplus: Surplus,
  sunW: Float64Array,
  houseW: Float64Array,
  order: readonly SurplusActor[],
  keep?: DiversionSeries,
): DiversionTotals {
  return inOneGo(simulateDiversionInSlices(surplus, sunW, houseW, order, keep));
}

/** `simulateDiversion` in slices. */
export function* simulateDiversionInSlices(
  surplus: Surplus,
  sunW: Float64Array,
  houseW: Float64Array,
  order: readonly SurplusActor[],
  keep?: DiversionSeries,
): Slices<DiversionTotals> {
  yield;
  const flow = new SurplusFlow(surplus, sunW, houseW, order, keep);
  for (let from = 0; from < flow.steps; from += STEPS_A_SLICE) {
    yield;
    flow.advance(from, Math.min(flow.steps, from + STEPS_A_SLICE));
  }
  return flow.totals();
}

/** Sun, house and whoever takes and gives, stepping together. */
class SurplusFlow {
  readonly steps: number;
  private readonly perDay: number;
  private readonly weekSteps: number;
  private readonly battery: StoredEnergy | undefined;
  private readonly tank: HotTank | undefined;
  private readonly vehicle: ParkedVehicle | undefined;
  private readonly ledger: FlowLedger;
  private readonly isBoost: Float64Array;
  private readonly feedsHeater: boolean;
  /** Of the present step; what is left of the surplus is what the grid takes. */
  private sunHereW = 0;
  private houseHereW = 0;
  private leftW = 0;
  private batteryW = 0;
  private heaterW = 0;
  private vehicleW = 0;
  private isCharging = false;

  constructor(
    private readonly surplus: Surplus,
    private readonly sunW: Float64Array,
    private readonly houseW: Float64Array,
    private readonly order: readonly SurplusActor[],
    private readonly keep: DiversionSeries | undefined,
  ) {
    const { stepMin, days, firstDay, battery, heater, vehicle, tariff, sharedCt } = surplus;
    const hours = stepMin / 60;
    this.perDay = Math.round(MINUTES_A_DAY / stepMin);
    this.steps = days * this.perDay;
    this.weekSteps = Math.round(MINUTES_A_WEEK / stepMin);
    const hourOf = Float64Array.from({ length: this.perDay }, (_, at) => (at * stepMin) / 60);
    this.battery = battery && new StoredEnergy(battery, hours);
    this.tank = heater && new HotTank(heater, hours, hourOf);
    this.vehicle = vehicle && new ParkedVehicle(vehicle, hours, stepMin, hourOf);
    this.ledger = new FlowLedger(tariff, hours, firstDay, hourOf);
    this.isBoost = hourOf.map((hour) =>
      Number(heater !== undefined && isWithin(hour, heater.boostFromH, heater.boostToH)),
    );
    this.feedsHeater =
      sharedCt && battery !== undefined && heater !== undefined && heater.setPointW > battery.setPointW;
  }

  advance(from: number, to: number): void {
    for (let step = from; step < to; step++) {
      const at = step % this.perDay;
      if (at === 0 && step > 0) this.ledger.startDay(this.surplus.firstDay + step / this.perDay);
      this.step(step, at);
      if ((step + 1) % this.weekSteps === 0) this.tank?.endWeek();
    }
  }

  totals(): DiversionTotals {
    const { battery, tank, vehicle, ledger, surplus } = this;
    const sums = ledger.totals();
    return {
      order: [...this.order],
      ...sums,
      batteryLossKwh: ledger.intoBatteryKwh() - (battery?.gainedKwh() ?? 0),
      hotLitres: tank?.litres ?? 0,
      tankLossKwh: (tank?.lossWh ?? 0) / 1000,
      tankDrawnKwh: (tank?.drawnWh ?? 0) / 1000,
      km: vehicle?.km(sums.vehicleKwh) ?? 0,
      endSocPct: battery?.socPct() ?? 0,
      startTankC: surplus.heater?.startC ?? 0,
      endTankC: tank?.waterC ?? 0,
      weeksAt60: tank?.weeksAt60 ?? 0,
      weeks: Math.floor(this.steps / this.weekSteps),
    };
  }

  private step(step: number, at: number): void {
    const { battery, tank, vehicle, ledger } = this;
    this.sunHereW = this.sunW[step]!;
    this.houseHereW = this.houseW[step]!;
    this.leftW = this.sunHereW - this.houseHereW;
    this.batteryW = this.heaterW = this.vehicleW = 0;
    this.isCharging = false;
    const heatRoomW = tank ? tank.roomW() : 0;
    for (const actor of this.order) this.offer(actor, at, heatRoomW);
    this.takeByTheClock(at);
    if (battery) {
      const givableW = battery.givableW();
      if (this.feedsHeater && !this.isCharging) this.feedHeater(givableW, heatRoomW);
      if (!this.isCharging) this.coverLack(givableW);
      battery.step(this.batteryW);
    }
    tank?.step(this.heaterW, at);
    vehicle?.step(this.vehicleW, at);
    ledger.step(at, this.sunHereW, this.houseHereW, -this.leftW, this.batteryW, this.heaterW, this.vehicleW);
    if (this.keep) this.write(this.keep, step);
  }

  /** One actor takes of the surplus that is there, or that its own meter shows. */
  private offer(actor: SurplusActor, at: number, heatRoomW: number): void {
    const eye = this.surplus.sight?.[actor];
    const offeredW = eye ? balancedW(this.seenSurplusW(eye), eye[actor]) : this.leftW;
    if (offeredW <= 0) return;
    if (actor === "battery" && this.battery) {
      // Full or not: one that is offered power does not give any in the same step.
      this.isCharging = true;
      this.batteryW = this.battery.takesW(offeredW);
      this.leftW -= this.batteryW;
    } else if (actor === "heater" && this.tank) {
      this.heaterW = this.tank.takesW(offeredW, heatRoomW);
      this.leftW -= this.heaterW;
    } else if (actor === "vehicle" && this.vehicle) {
      this.vehicleW = this.vehicle.takesW(offeredW, at);
      this.leftW -= this.vehicleW;
    }
  }

  /** A boost of the water and a vehicle at night take in their hours, surplus or not. */
  private takeByTheClock(at: number): void {
    if (this.tank && this.isBoost[at] === 1) {
      const boostW = this.tank.boostW(this.heaterW);
      this.heaterW += boostW;
      this.leftW -= boostW;
    }
    if (this.vehicle && this.ledger.isNight[at] === 1) {
      const moreW = this.vehicle.nightW(this.vehicleW, at);
      this.vehicleW += moreW;
      this.leftW -= moreW;
    }
  }

  /** The heater goes on for as long as the battery keeps the grid below what the heater is content with. */
  private feedHeater(givableW: number, heatRoomW: number): void {
    const ratedW = this.surplus.heater?.ratedW ?? 0;
    const spareW = Math.max(0, givableW - Math.max(0, -this.leftW));
    const extraW = Math.max(0, Math.min(spareW, ratedW - this.heaterW, heatRoomW - this.heaterW));
    this.heaterW += extraW;
    this.leftW -= extraW;
    this.ledger.heaterFromBattery += extraW;
  }

  /** The battery gives what is missing, or what its own meter shows to be missing. */
  private coverLack(givableW: number): void {
    const eye = this.surplus.sight?.battery;
    const lackW = eye ? balancedW(-this.seenSurplusW(eye), eye.battery) : -this.leftW;
    if (lackW <= 0) return;
    const givesW = Math.max(0, Math.min(lackW, givableW));
    this.batteryW = -givesW;
    this.leftW += givesW;
  }

  private seenSurplusW(eye: FlowSight): number {
    return seenSurplusW(eye, this.sunHereW, this.houseHereW, this.batteryW, this.heaterW, this.vehicleW);
  }

  private write(keep: DiversionSeries, step: number): void {
    const { sight } = this.surplus;
    const shown = sight?.battery ?? sight?.heater ?? sight?.vehicle;
    keep.batteryW[step] = this.batteryW;
    keep.heaterW[step] = this.heaterW;
    keep.vehicleW[step] = this.vehicleW;
    keep.gridW[step] = -this.leftW;
    keep.seenW[step] = shown ? -this.seenSurplusW(shown) : -this.leftW;
    keep.socPct[step] = this.battery?.socPct() ?? 0;
    keep.tankC[step] = this.tank?.waterC ?? 0;
  }
}
