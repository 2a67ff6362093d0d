import { describe, expect, it } from "vitest";
import { controlFindings } from "@/core/control/controlFindings";
import { resolve } from "@/core/plan/resolve";
import { diversion } from "@/core/simulation/diversion";
import { diversionRequestSchema } from "@/core/simulation/diversionSchema";
import {
  fieldPowerW,
  sunPosition,
  sunSeries,
  usualAzimuthDeg,
  type PvField,
  type SunPlace,
} from "@/core/simulation/sun";
import { jobFromPattern } from "../../../tests/fixtures/shipped";

const at = (latDeg: number): SunPlace => ({ latDeg, lonDeg: 0, utcOffsetH: 0 });
const kwhOf = (series: Float64Array, stepMin: number) =>
  series.reduce((sum, watts) => sum + watts, 0) * (stepMin / 60_000);

/** The mean of some years, kWh for 1 kWp: the whole of it, January, June, December. */
function usualYear(latDeg: number, tiltDeg: number) {
  const years = [1, 2, 3, 4, 5, 6].map((seed) => sunSeries(at(latDeg), [{ kwp: 1, tiltDeg }], 1, 365, 60, 0.6, seed));
  const mean = (from: number, to: number) =>
    years.reduce((sum, year) => sum + kwhOf(year.subarray(24 * from, 24 * to), 60), 0) / years.length;
  return { year: mean(0, 365), january: mean(0, 31), june: mean(151, 181), december: mean(334, 365) };
}

describe("a year of sun", () => {
  it.each([
    // What 1 kWp usually makes at these latitudes, kWh: year, January, December.
    [52, 35, 1020, 32, 26],
    [37, 32, 1570, 90, 84],
    [-35, 32, 1590, 174, 172],
  ])("at %d° comes out as usual, the dark and the bright months too", (latDeg, tiltDeg, year, january, december) => {
    const usual = usualYear(latDeg, tiltDeg);
    expect(Math.abs(usual.year / year - 1)).toBeLessThan(0.05);
    expect(Math.abs(usual.january / january - 1)).toBeLessThan(0.12);
    expect(Math.abs(usual.december / december - 1)).toBeLessThan(0.12);
    expect(usual.june > usual.december).toBe(latDeg > 0);
  });

  it("has the same weather at every width of the steps: each is the mean of the finer ones in it", () => {
    const of = (stepMin: number) => sunSeries(at(47), [{ kwp: 6, tiltDeg: 30 }], 100, 4, stepMin, 0.6, 9);
    const fine = of(1);
    for (const stepMin of [5, 15, 60]) {
      const wide = of(stepMin);
      expect(wide).toHaveLength((4 * 1440) / stepMin);
      for (const [step, watts] of wide.entries()) {
        const mean = fine.subarray(step * stepMin, (step + 1) * stepMin).reduce((sum, own) => sum + own, 0) / stepMin;
        expect(Math.abs(watts - mean)).toBeLessThan(1e-6);
      }
    }
    expect(kwhOf(of(0.5), 0.5)).toBeCloseTo(kwhOf(fine, 1), 9);
  });

  it("lets a passing cloud last for minutes, whatever the step", () => {
    const series = sunSeries(at(47), [{ kwp: 6, tiltDeg: 30 }], 172, 30, 1, 0.6, 2);
    // Around noon: changes from minute to minute are a small part of what there is over an hour.
    const noons = Array.from({ length: 30 }, (_, day) => series.subarray(day * 1440 + 660, day * 1440 + 780));
    const spread = (values: Float64Array) => Math.max(...values) - Math.min(...values);
    const step = (values: Float64Array) => Math.max(...values.slice(1).map((watts, i) => Math.abs(watts - values[i]!)));
    const cloudy = noons.filter((noon) => spread(noon) > 500);
    expect(cloudy.length).toBeGreaterThan(8);
    for (const noon of cloudy) expect(step(noon)).toBeLessThan(0.9 * spread(noon));
  });

  it("is what the docstrings say: 61.45° at 52° N in June, 3.8 kW flat under a sun at 60°", () => {
    expect(sunPosition(at(52), 172, 722).elevationDeg).toBeCloseTo(61.45, 1);
    const flat = fieldPowerW({ kwp: 5, tiltDeg: 0 }, { elevationDeg: 60, azimuthDeg: 180 }, 172, 1);
    expect(flat / 1000).toBeCloseTo(3.8, 1);
  });
});

describe("a field in the south", () => {
  it("looks north where nobody said", () => {
    expect([usualAzimuthDeg(at(52)), usualAzimuthDeg(at(-35))]).toEqual([180, 0]);
    const year = (field: PvField) => kwhOf(sunSeries(at(-35), [field], 1, 365, 60, 0.6, 1), 60);
    expect(year({ kwp: 1, tiltDeg: 30 })).toBe(year({ kwp: 1, tiltDeg: 30, azimuthDeg: 0 }));
    expect(year({ kwp: 1, tiltDeg: 30, azimuthDeg: 180 })).toBeLessThan(0.85 * year({ kwp: 1, tiltDeg: 30 }));
  });

  it("that looks south is noted with what it costs", () => {
    const job = jobFromPattern("two-ct-add-on");
    const facing = (azimuthDeg: number | undefined, latDeg: number) => {
      const fields = [{ kwp: 4, tiltDeg: 30, ...(azimuthDeg === undefined ? {} : { azimuthDeg }) }];
      const divert = { ...job.divert, place: at(latDeg), fields };
      return controlFindings(resolve({ ...job, divert })).filter(({ code }) => code === "faces-away");
    };
    expect(facing(180, -35)).toMatchObject([{ severity: "note" }]);
    expect([facing(0, -35), facing(undefined, -35), facing(180, 52), facing(90, -35)].flat()).toEqual([]);
  });
});

it("charges a vehicle with the loss that charging has: it drives with less than was drawn", () => {
  const of = (efficiencyPct: number) =>
    diversion(
      diversionRequestSchema.parse({
        days: 7,
        fields: [{ kwp: 10 }],
        vehicle: { efficiencyPct, pluggedFromH: 0, pluggedToH: 24, kmADay: 60 },
        orders: [["vehicle"]],
      }),
    ).totals[0]!;
  const [lossless, usual] = [of(100), of(90)];
  expect(usual.km / usual.vehicleKwh).toBeCloseTo((0.9 * lossless.km) / lossless.vehicleKwh, 9);
});
