import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { equalService, type ComparedOrder } from "@/core/control/equalService";
import { USUAL_DIVERSION, USUAL_HEATER, USUAL_VEHICLE } from "@/core/simulation/diversionSchema";

const heater = { ...USUAL_HEATER, ratedW: 3000 };
const plan = { heater, vehicle: USUAL_VEHICLE, tariff: USUAL_DIVERSION.tariff };
const totals = (part: Partial<ComparedOrder>): ComparedOrder => ({
  hotLitres: 0,
  km: 0,
  money: 0,
  ...part,
});

describe("orders on equal hot water and kilometres", () => {
  it("buy 3.49 kWh for 100 litres that are missing, as the docblock says", () => {
    const [best, less] = equalService(
      [totals({ hotLitres: 140, money: 2 }), totals({ hotLitres: 40, money: 1 })],
      plan,
    );
    expect(best).toEqual({ money: 2, missingLitres: 0, missingKm: 0 });
    expect(less!.missingLitres).toBe(100);
    expect(less!.money - 1).toBeCloseTo(3.489 * 0.32, 4);
  });

  it("buy what the charger loses too, for kilometres that are missing", () => {
    const [, less] = equalService([totals({ km: 100 }), totals({ km: 0, money: 0 })], plan);
    expect(less!.money).toBeCloseTo((18 / 0.9) * 0.32, 9);
  });

  it("cost no less than their own bill, and keep it where nothing is missing", () => {
    const amount = fc.double({ min: 0, max: 1e4, noNaN: true });
    const some = fc.record({ hotLitres: amount, km: amount, money: fc.double({ min: -1e3, max: 1e3, noNaN: true }) });
    fc.assert(
      fc.property(fc.array(some, { minLength: 1, maxLength: 6 }), (parts) => {
        const equal = equalService(parts.map(totals), plan);
        for (const [at, { money, missingLitres, missingKm }] of equal.entries()) {
          expect(money).toBeGreaterThanOrEqual(parts[at]!.money);
          if (missingLitres === 0 && missingKm === 0) expect(money - parts[at]!.money).toBe(0);
        }
        expect(equal.some(({ missingLitres }) => missingLitres === 0)).toBe(true);
      }),
    );
  });
});
