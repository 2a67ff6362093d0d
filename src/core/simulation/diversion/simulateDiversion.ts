import { StoredEnergy } from "@/core/simulation/diversion/battery";
import { isWithin } from "@/core/simulation/diversion/dayHours";
import { balancedW, seenSurplusW } from "@/core/simulation/diversion/flowSight";
import { FlowLedger } from "@/core/simulation/diversion/ledger";
import { HotTank } from "@/core/simulation/diversion/tank";
import { ParkedVehicle } from "@/core/simulation/diversion/vehicle";
import type { DiversionRequest, DiversionTotals, SurplusActor } from "@/core/simulation/diversionSchema";
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

  /**
   * In one piece on purpose: a year has half a million steps, and with its parts in methods of their own they took a
   * quarter longer.
   */
  private step(step: number, at: number): void {
    const { battery, tank, vehicle, ledger, isBoost } = this;
    const { sight, heater } = this.surplus;
    const sunHere = this.sunW[step]!;
    const houseHere = this.houseW[step]!;
    let leftW = sunHere - houseHere;
    let batteryW = 0;
    let heaterW = 0;
    let vehicleW = 0;
    let isCharging = false;
    const heatRoomW = tank ? tank.roomW() : 0;
    for (const actor of this.order) {
      const eye = sight?.[actor];
      const offeredW = eye
        ? balancedW(seenSurplusW(eye, sunHere, houseHere, batteryW, heaterW, vehicleW), eye[actor])
        : leftW;
      if (offeredW <= 0) continue;
      if (actor === "battery" && battery) {
        // Full or not: one that is offered power does not give any in the same step.
        isCharging = true;
        batteryW = battery.takesW(offeredW);
        leftW -= batteryW;
      } else if (actor === "heater" && tank) {
        heaterW = tank.takesW(offeredW, heatRoomW);
        leftW -= heaterW;
      } else if (actor === "vehicle" && vehicle) {
        vehicleW = vehicle.takesW(offeredW, at);
        leftW -= vehicleW;
      }
    }
    if (tank && isBoost[at] === 1) {
      const boostW = tank.boostW(heaterW);
      heaterW += boostW;
      leftW -= boostW;
    }
    if (vehicle && ledger.isNight[at] === 1) {
      const moreW = vehicle.nightW(vehicleW, at);
      vehicleW += moreW;
      leftW -= moreW;
    }
    if (battery) {
      const givableW = battery.givableW();
      if (this.feedsHeater && heater && !isCharging) {
        // The heater goes on for as long as the battery keeps the grid below what the heater is content with.
        const spareW = Math.max(0, givableW - Math.max(0, -leftW));
        const extraW = Math.max(0, Math.min(spareW, heater.ratedW - heaterW, heatRoomW - heaterW));
        heaterW += extraW;
        leftW -= extraW;
        ledger.heaterFromBattery += extraW;
      }
      const eye = sight?.battery;
      const lackW = eye
        ? balancedW(-seenSurplusW(eye, sunHere, houseHere, batteryW, heaterW, vehicleW), eye.battery)
        : -leftW;
      if (lackW > 0 && !isCharging) {
        const givesW = Math.max(0, Math.min(lackW, givableW));
        batteryW = -givesW;
        leftW += givesW;
      }
      battery.step(batteryW);
    }
    const gridW = -leftW;
    tank?.step(heaterW, at);
    vehicle?.step(vehicleW, at);
    ledger.step(at, sunHere, houseHere, gridW, batteryW, heaterW, vehicleW);
    if (this.keep) this.write(this.keep, step, gridW, batteryW, heaterW, vehicleW);
  }

  private write(
    keep: DiversionSeries,
    step: number,
    gridW: number,
    batteryW: number,
    heaterW: number,
    vehicleW: number,
  ): void {
    const { sight } = this.surplus;
    const shown = sight?.battery ?? sight?.heater ?? sight?.vehicle;
    keep.batteryW[step] = batteryW;
    keep.heaterW[step] = heaterW;
    keep.vehicleW[step] = vehicleW;
    keep.gridW[step] = gridW;
    keep.seenW[step] = shown
      ? -seenSurplusW(shown, this.sunW[step]!, this.houseW[step]!, batteryW, heaterW, vehicleW)
      : gridW;
    keep.socPct[step] = this.battery?.socPct() ?? 0;
    keep.tankC[step] = this.tank?.waterC ?? 0;
  }
}
