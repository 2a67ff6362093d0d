import type { DiversionRequest, SurplusActor } from "@/core/simulation/diversionSchema";

const DRAWS = [0, 0, 0, 0, 0, 1, 4, 6, 4, 2, 1, 1, 2, 2, 1, 1, 1, 2, 4, 5, 4, 3, 1, 0];

/**
 * A diversion computed the plain way: objects and energies in kWh, one question after the other, nothing prepared
 * ahead. Only what the fast one is compared by.
 */
export function plainDiversion(
  { stepMin, battery, heater, vehicle, tariff, sharedCt, sight }: DiversionRequest,
  sunW: readonly number[],
  houseW: readonly number[],
  order: readonly SurplusActor[],
) {
  const h = stepMin / 60;
  const perDay = Math.round(1440 / stepMin);
  const within = (hour: number, from: number, to: number) =>
    from === to ? false : from < to ? hour >= from && hour < to : hour >= from || hour < to;
  const e = battery ? Math.sqrt(battery.efficiencyPct / 100) : 1;
  const least = battery ? (battery.capacityKwh * battery.minSocPct) / 100 : 0;
  const state = {
    kwh: battery ? Math.max(least, (battery.capacityKwh * battery.startSocPct) / 100) : 0,
    tankC: heater?.startC ?? 0,
    carKwh: (vehicle?.capacityKwh ?? 0) / 2,
  };
  const sums = { importKwh: 0, exportKwh: 0, heaterKwh: 0, vehicleKwh: 0, batteryInKwh: 0, money: 0 };
  const litreKwhPerK = 0.001163;
  sunW.forEach((sun, step) => {
    const hour = ((step % perDay) * stepMin) / 60;
    const night = within(hour, tariff.nightFromH, tariff.nightToH);
    const plugged = vehicle !== undefined && within(hour, vehicle.pluggedFromH, vehicle.pluggedToH);
    const tripKwh = vehicle ? (vehicle.kmADay * vehicle.kwhPer100km) / 100 : 0;
    let left = sun - houseW[step]!;
    const power = { battery: 0, heater: 0, vehicle: 0 };
    let isOffered = false;
    const tankKwhPerK = heater ? heater.litres * litreKwhPerK : 1;
    const roomW = heater ? (Math.max(0, heater.thermostatC - state.tankC) * tankKwhPerK * 1000) / h : 0;
    const seen = (actor: SurplusActor, sign: 1 | -1) => {
      const eye = sight?.[actor];
      if (!eye) return sign * left;
      const sum =
        sign *
        (eye.sun * sun -
          eye.house * houseW[step]! -
          eye.battery * power.battery -
          eye.heater * power.heater -
          eye.vehicle * power.vehicle);
      if (eye[actor] < 0.02) return sum > 1 ? Number.MAX_VALUE : 0;
      return sum / eye[actor];
    };
    for (const actor of order) {
      const offered = seen(actor, 1);
      if (offered <= 0) continue;
      if (actor === "battery") isOffered = true;
      if (actor === "battery" && battery)
        power.battery = Math.min(offered, battery.powerW, ((battery.capacityKwh - state.kwh) * 1000) / (e * h));
      if (actor === "heater" && heater) {
        const wish = Math.min(offered, heater.ratedW, roomW);
        power.heater =
          heater.steps === 0
            ? wish
            : (Math.floor((wish * heater.steps) / heater.ratedW + 1e-9) * heater.ratedW) / heater.steps;
      }
      if (actor === "vehicle" && vehicle && plugged) {
        const wish = Math.min(
          offered,
          vehicle.maxA * vehicle.voltageV * vehicle.phases,
          ((vehicle.capacityKwh - state.carKwh) * 1000) / h / (vehicle.efficiencyPct / 100),
        );
        if (wish >= vehicle.minA * vehicle.voltageV * vehicle.phases) power.vehicle = wish;
      }
      left = sun - houseW[step]! - power.battery - power.heater - power.vehicle;
    }
    if (heater && within(hour, heater.boostFromH, heater.boostToH) && state.tankC < heater.boostToC) {
      const more = Math.max(
        0,
        Math.min(heater.ratedW, ((heater.boostToC - state.tankC) * tankKwhPerK * 1000) / h) - power.heater,
      );
      power.heater += more;
      left -= more;
    }
    if (vehicle && plugged && night && state.carKwh < tripKwh) {
      const more = Math.max(
        0,
        Math.min(
          vehicle.maxA * vehicle.voltageV * vehicle.phases,
          ((tripKwh - state.carKwh) * 1000) / h / (vehicle.efficiencyPct / 100),
        ) - power.vehicle,
      );
      power.vehicle += more;
      left -= more;
    }
    if (battery && !isOffered) {
      const can = Math.min(battery.powerW, ((state.kwh - least) * 1000 * e) / h);
      if (sharedCt && heater && heater.setPointW > battery.setPointW) {
        const more = Math.max(
          0,
          Math.min(can - Math.max(0, -left), heater.ratedW - power.heater, roomW - power.heater),
        );
        power.heater += more;
        left -= more;
      }
      const lack = seen("battery", -1);
      if (lack > 0) {
        const gives = Math.max(0, Math.min(lack, can));
        power.battery = -gives;
        left += gives;
      }
    }
    state.kwh += power.battery > 0 ? (power.battery * h * e) / 1000 : (power.battery * h) / e / 1000;
    if (heater) {
      const litres =
        ((heater.drawLitresADay * DRAWS[Math.floor(hour)]!) / DRAWS.reduce((sum, share) => sum + share, 0)) * h;
      state.tankC +=
        ((power.heater * h) / 1000 -
          (heater.lossWPerK * Math.max(0, state.tankC - 18) * h) / 1000 -
          litres * litreKwhPerK * Math.max(0, state.tankC - heater.inletC)) /
        tankKwhPerK;
    }
    if (vehicle) {
      state.carKwh += ((power.vehicle * h) / 1000) * (vehicle.efficiencyPct / 100);
      if (step % perDay === Math.round((vehicle.pluggedToH * 60) / stepMin) % perDay)
        state.carKwh = Math.max(0, state.carKwh - tripKwh);
    }
    const gridKwh = (-left * h) / 1000;
    sums.importKwh += Math.max(0, gridKwh);
    sums.exportKwh += Math.max(0, -gridKwh);
    sums.money +=
      gridKwh > 0 ? gridKwh * (night ? tariff.nightPerKwh : tariff.importPerKwh) : gridKwh * tariff.exportPerKwh;
    sums.heaterKwh += (power.heater * h) / 1000;
    sums.vehicleKwh += (power.vehicle * h) / 1000;
    sums.batteryInKwh += (Math.max(0, power.battery) * h) / 1000;
  });
  return { ...sums, endTankC: state.tankC, endSocPct: battery ? (100 * state.kwh) / battery.capacityKwh : 0 };
}
