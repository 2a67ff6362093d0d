import type { DiversionRequest, DiversionTotals, FlowSight, SurplusActor } from "@/core/control/diversionSchema";

const WATER_WH_PER_LITRE_K = 1.163;
/** Below this part of itself in its own sum, a controller is not calmed by what it does and goes to its end. */
const LEAST_OWN_FACTOR = 0.02;
/** Less than this moves nobody, W. */
const NOTICED_W = 1;
/** Water below this is not called hot at the tap. */
const HOT_C = 40;
const HYGIENE_C = 60;
const MINUTES_A_DAY = 1440;
const DAYS_A_YEAR = 365;
/** The last day of each month, of a year of 365. */
const MONTH_ENDS = [31, 59, 90, 120, 151, 181, 212, 243, 273, 304, 334, 365] as const;
const MINUTES_A_WEEK = 7 * MINUTES_A_DAY;
/** Shares of a day's hot water by the hour. */
const DRAW_BY_HOUR = [0, 0, 0, 0, 0, 1, 4, 6, 4, 2, 1, 1, 2, 2, 1, 1, 1, 2, 4, 5, 4, 3, 1, 0] as const;
const DRAW_TOTAL = DRAW_BY_HOUR.reduce<number>((sum, share) => sum + share, 0);

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

type Plan = Pick<DiversionRequest, "stepMin" | "days" | "firstDay" | "battery" | "heater" | "vehicle" | "tariff" | "sharedCt" | "sight">;

/**
 * Where the surplus goes, step by step: sun less house is offered to each actor in turn; the battery covers what is missing;
 * the vehicle and a boost take from the grid in their hours. At every step sun + grid = house + battery + heater + vehicle.
 * Where heater and battery act on one grid CT and the heater is content with more import than the battery holds, the
 * battery feeds the heater. An actor with a sight of its own acts on the surplus that its meter shows, not on the one that
 * is there, until its own share in that sum balances it.
 *
 * @param keep Filled with the flows of every step, where they are wanted.
 */
export function simulateDiversion({ stepMin, days, firstDay, battery, heater, vehicle, tariff, sharedCt, sight }: Plan, sunW: Float64Array, houseW: Float64Array, order: readonly SurplusActor[], keep?: DiversionSeries): DiversionTotals {
  const perDay = Math.round(MINUTES_A_DAY / stepMin);
  const steps = days * perDay;
  const hours = stepMin / 60;
  const hourOf = Float64Array.from({ length: perDay }, (_, at) => (at * stepMin) / 60);
  const isNight = hourOf.map((hour) => Number(isWithin(hour, tariff.nightFromH, tariff.nightToH)));
  const isBoost = hourOf.map((hour) => Number(heater !== undefined && isWithin(hour, heater.boostFromH, heater.boostToH)));
  const isPlugged = hourOf.map((hour) => Number(vehicle !== undefined && isWithin(hour, vehicle.pluggedFromH, vehicle.pluggedToH)));
  const drawn = hourOf.map((hour) => (heater ? (heater.drawLitresADay * (DRAW_BY_HOUR[Math.floor(hour)] ?? 0)) / DRAW_TOTAL * hours : 0));
  const feedsHeater = sharedCt && battery !== undefined && heater !== undefined && heater.setPointW > battery.setPointW;

  const shown = sight?.battery ?? sight?.heater ?? sight?.vehicle;

  const oneWay = battery ? Math.sqrt(battery.efficiencyPct / 100) : 1;
  const capacityWh = battery ? battery.capacityKwh * 1000 : 0;
  const leastWh = battery ? (capacityWh * battery.minSocPct) / 100 : 0;
  let storedWh = battery ? Math.max(leastWh, (capacityWh * battery.startSocPct) / 100) : 0;
  const heatWhPerK = heater ? heater.litres * WATER_WH_PER_LITRE_K : 1;
  const startTankC = heater?.startC ?? 0;
  let tankC = startTankC;
  const leastVehicleW = vehicle ? vehicle.minA * vehicle.voltageV * vehicle.phases : 0;
  const mostVehicleW = vehicle ? vehicle.maxA * vehicle.voltageV * vehicle.phases : 0;
  const tripWh = vehicle ? (vehicle.kmADay * vehicle.kwhPer100km * 1000) / 100 : 0;
  const vehicleWh = vehicle ? vehicle.capacityKwh * 1000 : 0;
  let inVehicleWh = vehicleWh / 2;
  const leaves = vehicle ? Math.round((vehicle.pluggedToH * 60) / stepMin) % perDay : -1;

  let sun = 0, house = 0, imported = 0, exported = 0, into = 0, out = 0, heaterSum = 0, fromBattery = 0, vehicleSum = 0, litres = 0, tankLoss = 0, tankDrawn = 0, money = 0, weeksAt60 = 0, hottest = -Infinity;
  const byMonth = MONTH_ENDS.map(() => ({ sunKwh: 0, exportKwh: 0, importKwh: 0, heaterKwh: 0 }));
  let month = monthOf(firstDay), booked = { sun: 0, exported: 0, imported: 0, heater: 0 };
  const bookMonth = () => {
    const [own, kwh] = [byMonth[month]!, hours / 1000];
    own.sunKwh += (sun - booked.sun) * kwh;
    own.exportKwh += (exported - booked.exported) * kwh;
    own.importKwh += (imported - booked.imported) * kwh;
    own.heaterKwh += (heaterSum - booked.heater) * kwh;
    booked = { sun, exported, imported, heater: heaterSum };
  };
  const weekSteps = Math.round(MINUTES_A_WEEK / stepMin);
  for (let step = 0; step < steps; step++) {
    const at = step % perDay;
    if (at === 0 && step > 0) {
      const next = monthOf(firstDay + step / perDay);
      if (next !== month) bookMonth();
      month = next;
    }
    const sunHere = sunW[step]!;
    const houseHere = houseW[step]!;
    let surplus = sunHere - houseHere;
    let batteryW = 0, heaterW = 0, vehicleW = 0, isCharging = false;
    const heatRoomW = heater ? Math.max(0, ((heater.thermostatC - tankC) * heatWhPerK) / hours) : 0;
    for (const actor of order) {
      const eye = sight?.[actor];
      const offeredW = eye ? balancedW(seenSurplusW(eye, sunHere, houseHere, batteryW, heaterW, vehicleW), eye[actor]) : surplus;
      if (offeredW <= 0) continue;
      if (actor === "battery" && battery) {
        // Full or not: one that is offered power does not give any in the same step.
        isCharging = true;
        batteryW = Math.min(offeredW, battery.powerW, (capacityWh - storedWh) / (oneWay * hours));
        surplus -= batteryW;
      } else if (actor === "heater" && heater) {
        heaterW = inSteps(Math.min(offeredW, heater.ratedW, heatRoomW), heater.ratedW, heater.steps);
        surplus -= heaterW;
      } else if (actor === "vehicle" && vehicle && isPlugged[at] === 1) {
        const takes = Math.min(offeredW, mostVehicleW, (vehicleWh - inVehicleWh) / hours);
        if (takes >= leastVehicleW) {
          vehicleW = takes;
          surplus -= takes;
        }
      }
    }
    if (heater && isBoost[at] === 1 && tankC < heater.boostToC) {
      const boost = Math.max(0, Math.min(heater.ratedW, ((heater.boostToC - tankC) * heatWhPerK) / hours) - heaterW);
      heaterW += boost;
      surplus -= boost;
    }
    if (vehicle && isPlugged[at] === 1 && isNight[at] === 1 && inVehicleWh < tripWh) {
      const more = Math.max(0, Math.min(mostVehicleW, (tripWh - inVehicleWh) / hours) - vehicleW);
      vehicleW += more;
      surplus -= more;
    }
    if (battery) {
      const givable = Math.min(battery.powerW, ((storedWh - leastWh) * oneWay) / hours);
      if (feedsHeater && heater && !isCharging) {
        // The heater goes on for as long as the battery keeps the grid below what the heater is content with.
        const spare = Math.max(0, givable - Math.max(0, -surplus));
        const extra = Math.max(0, Math.min(spare, heater.ratedW - heaterW, heatRoomW - heaterW));
        heaterW += extra;
        surplus -= extra;
        fromBattery += extra;
      }
      const lackW = sight?.battery ? balancedW(-seenSurplusW(sight.battery, sunHere, houseHere, batteryW, heaterW, vehicleW), sight.battery.battery) : -surplus;
      if (lackW > 0 && !isCharging) {
        const gives = Math.max(0, Math.min(lackW, givable));
        batteryW = -gives;
        surplus += gives;
      }
      storedWh += batteryW >= 0 ? batteryW * hours * oneWay : (batteryW * hours) / oneWay;
    }
    const gridW = -surplus;
    if (heater) {
      const lossWh = heater.lossWPerK * Math.max(0, tankC - 18) * hours;
      const litresHere = drawn[at]!;
      const drawWh = litresHere * WATER_WH_PER_LITRE_K * Math.max(0, tankC - heater.inletC);
      if (tankC >= HOT_C) litres += litresHere;
      tankC += (heaterW * hours - lossWh - drawWh) / heatWhPerK;
      tankLoss += lossWh;
      tankDrawn += drawWh;
      hottest = Math.max(hottest, tankC);
    }
    if (vehicle) {
      inVehicleWh += vehicleW * hours;
      if (at === leaves) inVehicleWh = Math.max(0, inVehicleWh - tripWh);
    }
    sun += sunHere;
    house += houseHere;
    if (gridW > 0) {
      imported += gridW;
      money += gridW * (isNight[at] === 1 ? tariff.nightPerKwh : tariff.importPerKwh);
    } else {
      exported -= gridW;
      money += gridW * tariff.exportPerKwh;
    }
    if (batteryW > 0) into += batteryW;
    else out -= batteryW;
    heaterSum += heaterW;
    vehicleSum += vehicleW;
    if ((step + 1) % weekSteps === 0) {
      if (hottest >= HYGIENE_C) weeksAt60++;
      hottest = -Infinity;
    }
    if (keep) {
      keep.batteryW[step] = batteryW;
      keep.heaterW[step] = heaterW;
      keep.vehicleW[step] = vehicleW;
      keep.gridW[step] = gridW;
      keep.seenW[step] = shown ? -seenSurplusW(shown, sunHere, houseHere, batteryW, heaterW, vehicleW) : gridW;
      keep.socPct[step] = capacityWh > 0 ? (100 * storedWh) / capacityWh : 0;
      keep.tankC[step] = tankC;
    }
  }
  bookMonth();
  const kwh = hours / 1000;
  const startWh = battery ? Math.max(leastWh, (capacityWh * battery.startSocPct) / 100) : 0;
  return {
    order: [...order], sunKwh: sun * kwh, houseKwh: house * kwh, selfUseKwh: (sun - exported) * kwh, importKwh: imported * kwh, exportKwh: exported * kwh, batteryInKwh: into * kwh, batteryOutKwh: out * kwh,
    batteryLossKwh: (into - out) * kwh - (storedWh - startWh) / 1000, heaterKwh: heaterSum * kwh, heaterFromBatteryKwh: fromBattery * kwh, hotLitres: litres, tankLossKwh: tankLoss / 1000, tankDrawnKwh: tankDrawn / 1000,
    vehicleKwh: vehicleSum * kwh, km: vehicle ? (vehicleSum * kwh * 100) / vehicle.kwhPer100km : 0, money: money * kwh, endSocPct: capacityWh > 0 ? (100 * storedWh) / capacityWh : 0, startTankC, endTankC: tankC,
    weeksAt60, weeks: Math.floor(steps / weekSteps), byMonth,
  };
}

/** The month of a day of the year, from 0; a day after the last is of the next year. */
function monthOf(day: number): number {
  const within = ((day - 1) % DAYS_A_YEAR) + 1;
  return MONTH_ENDS.findIndex((end) => within <= end);
}

/** Export in a controller's measured sum, W. */
function seenSurplusW(eye: FlowSight, sunW: number, houseW: number, batteryW: number, heaterW: number, vehicleW: number): number {
  return eye.sun * sunW - eye.house * houseW - eye.battery * batteryW - eye.heater * heaterW - eye.vehicle * vehicleW;
}

/** What an actor does until its sum is balanced: less where it counts itself more than once, all it can where it does not see itself or the wrong way. */
function balancedW(seenW: number, ownFactor: number): number {
  return ownFactor >= LEAST_OWN_FACTOR ? seenW / ownFactor : seenW > NOTICED_W ? Infinity : 0;
}

/** Whole steps of the element, or any power by phase angle. */
function inSteps(powerW: number, ratedW: number, count: number): number {
  return count === 0 ? powerW : (Math.floor((powerW * count) / ratedW + 1e-9) * ratedW) / count;
}

/** Whether an hour is within a stretch of the day that may pass midnight; none where both ends are the same. */
function isWithin(hour: number, fromH: number, toH: number): boolean {
  return fromH === toH ? false : fromH < toH ? hour >= fromH && hour < toH : hour >= fromH || hour < toH;
}
