import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { StoredEnergy } from "@/core/simulation/diversion/battery";
import { isWithin } from "@/core/simulation/diversion/dayHours";
import { balancedW, seenSurplusW } from "@/core/simulation/diversion/flowSight";
import { FlowLedger } from "@/core/simulation/diversion/ledger";
import { HotTank } from "@/core/simulation/diversion/tank";
import { ParkedVehicle } from "@/core/simulation/diversion/vehicle";
import { diversionRequestSchema } from "@/core/simulation/diversionSchema";

const HOURS = 0.25;
const STEP_MIN = 15;
const HOUR_OF = Float64Array.from({ length: 96 }, (_, at) => at / 4);

const request = diversionRequestSchema.parse({
  days: 1,
  stepMin: STEP_MIN,
  battery: { capacityKwh: 10, powerW: 3000, efficiencyPct: 81, minSocPct: 10, startSocPct: 50 },
  heater: { ratedW: 3000, litres: 200, startC: 40, boostFromH: 2, boostToH: 5, boostToC: 55, steps: 3 },
  vehicle: { pluggedFromH: 18, pluggedToH: 7, kmADay: 50, minA: 6, maxA: 16, efficiencyPct: 90 },
});
const battery = () => new StoredEnergy(request.battery!, HOURS);
const tank = () => new HotTank(request.heater!, HOURS, HOUR_OF);
const vehicle = () => new ParkedVehicle(request.vehicle!, HOURS, STEP_MIN, HOUR_OF);
const at = (hour: number) => HOUR_OF.indexOf(hour);

describe("a battery in steps", () => {
  it("loses half on the way in and half on the way out: a tenth each of 81 %", () => {
    const stored = battery();
    stored.step(1000);
    expect(stored.heldWh).toBeCloseTo(5000 + 1000 * HOURS * 0.9, 9);
    stored.step(-900);
    expect(stored.heldWh).toBeCloseTo(5000 + 225 - 250, 9);
    expect(stored.gainedKwh()).toBeCloseTo(-0.025, 9);
  });

  it("never holds more than it can nor less than it must, whatever it is offered and asked", () => {
    fc.assert(
      fc.property(fc.array(fc.double({ min: -20_000, max: 20_000, noNaN: true }), { maxLength: 200 }), (asked) => {
        const stored = battery();
        for (const watts of asked) {
          stored.step(watts >= 0 ? stored.takesW(watts) : -Math.min(-watts, stored.givableW()));
          expect(stored.socPct()).toBeGreaterThan(10 - 1e-9);
          expect(stored.socPct()).toBeLessThan(100 + 1e-9);
        }
      }),
    );
  });
});

describe("a tank in steps", () => {
  it("keeps its books: what the heater gave is in the water, lost or drawn", () => {
    fc.assert(
      fc.property(fc.array(fc.double({ min: 0, max: 3000, noNaN: true }), { maxLength: 96 }), (powers) => {
        const hot = tank();
        powers.forEach((watts, step) => hot.step(watts, step));
        const inWh = powers.reduce((sum, watts) => sum + watts * HOURS, 0);
        const heldWh = (hot.waterC - 40) * 200 * 1.163;
        expect(heldWh + hot.lossWh + hot.drawnWh).toBeCloseTo(inWh, 6);
      }),
    );
  });

  it("takes whole thirds of its element, and no more than the thermostat lets in", () => {
    const hot = tank();
    expect(hot.takesW(2500, hot.roomW())).toBe(2000);
    expect(hot.takesW(999, hot.roomW())).toBe(0);
    expect(hot.takesW(1e6, 1500)).toBe(1000);
    expect(hot.roomW()).toBeCloseTo((25 * 200 * 1.163) / HOURS, 9);
  });

  it("is boosted up to a temperature, beside what the surplus gives", () => {
    const hot = tank();
    expect(hot.boostW(0)).toBe(3000);
    expect(hot.boostW(2000)).toBe(1000);
    hot.waterC = 55;
    expect(hot.boostW(0)).toBe(0);
  });

  it("counts the weeks in which it was hot enough once", () => {
    const hot = tank();
    hot.endWeek();
    hot.waterC = 62;
    hot.step(0, 0);
    hot.waterC = 40;
    hot.endWeek();
    hot.endWeek();
    expect(hot.weeksAt60).toBe(1);
  });
});

describe("a vehicle in steps", () => {
  it("takes at least 6 A or nothing, at most 16 A, and nothing while it is away", () => {
    const parked = vehicle();
    expect(parked.takesW(1379, at(20))).toBe(0);
    expect(parked.takesW(1381, at(20))).toBe(1381);
    expect(parked.takesW(9000, at(20))).toBe(16 * 230);
    expect(parked.takesW(9000, at(12))).toBe(0);
  });

  it("is filled from the grid at night for its way only, which it drives when it leaves", () => {
    const parked = vehicle();
    expect(parked.nightW(0, at(2))).toBe(0);
    for (let day = 0; day < 3; day++) parked.step(0, at(7));
    // Three ways of 9 kWh from half of 55 kWh leave less than the next one takes.
    expect(parked.nightW(0, at(2))).toBe(16 * 230);
    expect(parked.nightW(3000, at(2))).toBe(16 * 230 - 3000);
    expect(parked.nightW(0, at(12))).toBe(0);
    // Of 20 kWh drawn 18 are driven with: 100 km.
    expect(parked.km(20)).toBe(100);
  });
});

describe("the books", () => {
  it("add up by month to what they add up to in all, and cost import by day and night less export", () => {
    const tariff = { importPerKwh: 0.3, nightPerKwh: 0.2, nightFromH: 0, nightToH: 6, exportPerKwh: 0.1 };
    const ledger = new FlowLedger(tariff, HOURS, 31, HOUR_OF);
    ledger.step(at(2), 0, 4000, 4000, 0, 0, 0);
    ledger.step(at(12), 8000, 0, -4000, 1000, 3000, 0);
    ledger.startDay(32);
    ledger.step(at(12), 0, 4000, 3000, -1000, 0, 0);
    expect(ledger.totals()).toMatchObject({ importKwh: 1.75, exportKwh: 1, heaterKwh: 0.75, money: 0.2 - 0.1 + 0.225 });
    const [january, february, march] = ledger.byMonth;
    expect(january).toEqual({ sunKwh: 2, exportKwh: 1, importKwh: 1, heaterKwh: 0.75 });
    expect(february).toEqual({ sunKwh: 0, exportKwh: 0, importKwh: 0.75, heaterKwh: 0 });
    expect(march).toEqual({ sunKwh: 0, exportKwh: 0, importKwh: 0, heaterKwh: 0 });
    expect(ledger.intoBatteryKwh()).toBe(0);
  });
});

describe("a sight", () => {
  it("is the surplus that is there when everything is counted once", () => {
    const right = { sun: 1, house: 1, battery: 1, heater: 1, vehicle: 1 };
    expect(seenSurplusW(right, 5000, 1000, 500, 300, 200)).toBe(3000);
    expect(seenSurplusW({ ...right, sun: 2, house: 0 }, 5000, 1000, 500, 300, 200)).toBe(9000);
  });

  it("is balanced by half where one counts twice, and by all it has where one is blind to itself", () => {
    expect(balancedW(1000, 2)).toBe(500);
    expect(balancedW(1000, 0)).toBe(Infinity);
    expect(balancedW(1000, -1)).toBe(Infinity);
    expect(balancedW(0.5, 0)).toBe(0);
  });
});

it.each([
  [1, 22, 6, true],
  [22, 22, 6, true],
  [6, 22, 6, false],
  [12, 22, 6, false],
  [3, 0, 6, true],
  [3, 5, 5, false],
])("hour %d from %d to %d: %s", (hour, fromH, toH, within) => expect(isWithin(hour, fromH, toH)).toBe(within));
