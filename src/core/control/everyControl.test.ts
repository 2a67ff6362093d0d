import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { resolve } from "@/core/plan/resolve";
import { diversion } from "@/core/simulation/diversion";
import { diversionRequestSchema, type DiversionRequest } from "@/core/simulation/diversionSchema";
import { delayBudget, exportLimit, safeSetPointW } from "@/core/simulation/exportLimit";
import { judgeExport } from "@/core/simulation/judgeExport";
import type { ExportLimitRequest } from "@/core/simulation/exportLimitSchema";
import { backupChecks } from "@/core/control/backupChecks";
import { ARCHETYPES, houseSeries, type Archetype } from "@/core/simulation/house";
import { seriesOfValues } from "@/core/simulation/seriesOfValues";
import { simulateExport } from "@/core/simulation/feedIn/simulateExport";
import { fieldPowerW, sunPosition } from "@/core/simulation/sun";
import { blindControllers, sightFindings, whoSeesWhat } from "@/core/control/whoSeesWhat";
import { controlFindings } from "@/core/control/controlFindings";
import { diversionOfPlan, sizeVariants } from "@/core/control/divertOfPlan";
import { limitEntries } from "@/core/control/limitEntries";
import { exportLimiter, limitRequest, plannedSetPointW } from "@/core/control/exportLimiter";
import { stepTestRecipe } from "@/core/control/stepTest";
import { limitSettingsSchema } from "@/core/plan/limitSettings";
import type { JobDocument } from "@/core/job/jobDocument";
import { FORGOTTEN } from "../../../tests/fixtures/forgotten";
import { limitRequestOf } from "../../../tests/fixtures/limitRequest";
import { jobFromPattern, shippedPatterns } from "../../../tests/fixtures/shipped";

const PATTERNS = shippedPatterns().map(({ id }) => id);

function limited(id: string, powerW: number): JobDocument {
  return { ...jobFromPattern(id), limit: limitSettingsSchema.parse({ powerW }) };
}

/** With a meter that is right, a calm gain, and the load off earlier. */
function requestOf(change: object = {}): ExportLimitRequest {
  return limitRequestOf({
    meter: { samplePeriodMs: 200, delayMs: 350, errorPct: 0 },
    controller: { kind: "integral", gainPerS: 0.5, setPointW: 4900, deadBandW: 50, periodMs: 500 },
    loads: [
      { atS: 0, phase: "L1", powerW: 3000 },
      { atS: 20, phase: "L1", powerW: 0 },
    ],
    ...change,
  });
}

const codesOf = (request: ExportLimitRequest) => exportLimit(request).findings.map(({ code }) => code);

describe("the limit of every kind of site", () => {
  it.each(PATTERNS)(
    "%s: every value to type has its words, and what a kit holds is never above the set-point",
    (id) => {
      const job = limited(id, 2750);
      const plan = exportLimiter(resolve(job));
      if (!plan) return;
      const devices = limitEntries(resolve(job), plan);
      expect(devices[0]!.device).toBe(plan.controller.name);
      for (const { device, kit, entries } of devices)
        for (const text of [device, kit, ...entries.flatMap(({ field, value, why }) => [field, value, why])])
          expect(text).not.toMatch(FORGOTTEN);
      const [limit] = devices[0]!.entries.filter(({ field }) => field === "Export limit");
      const capacityW = plan.inverters.reduce((sum, { ratedW }) => sum + ratedW!, 0);
      if (limit && !limit.isProblem) {
        const [number, unit] = limit.value.split(" ");
        expect(unit === "%" ? (Number(number) / 100) * capacityW : Number(number)).toBeLessThanOrEqual(
          plannedSetPointW(job.limit, plan) + 1e-6,
        );
      }
      for (const line of stepTestRecipe(job.limit, plan, job.site.nodes, job.site.supply))
        expect(line).not.toMatch(FORGOTTEN);
      for (const { title, detail, cure } of controlFindings(resolve(job)))
        for (const text of [title, detail, cure]) expect(text).not.toMatch(FORGOTTEN);
    },
  );

  it.each(PATTERNS)(
    "%s: with the safe set-point the true export settles within the limit, whatever the meter hides",
    (id) => {
      const job = limited(id, 2000);
      const plan = exportLimiter(resolve(job));
      if (!plan) return;
      const request = limitRequest(resolve(job), plan, "load-drop");
      const calm = { ...request, controller: { ...request.controller, gainPerS: 0.2 } };
      const { settledExportW, oscillates } = exportLimit(calm);
      expect(oscillates).toBe(false);
      expect(settledExportW).toBeLessThanOrEqual(2000 + 1);
    },
  );
});

describe("judgements on a limit", () => {
  it("name what is wrong: too slow, too high, hunting, and the time to the fallback", () => {
    expect(
      codesOf(
        requestOf({ controller: { kind: "integral", gainPerS: 0.15, setPointW: 4900, deadBandW: 50, periodMs: 500 } }),
      ),
    ).toContain("over-long");
    expect(
      codesOf(
        requestOf({ controller: { kind: "integral", gainPerS: 0.5, setPointW: 5600, deadBandW: 0, periodMs: 500 } }),
      ),
    ).toContain("settles-high");
    expect(
      codesOf(
        requestOf({ controller: { kind: "integral", gainPerS: 12, setPointW: 4900, deadBandW: 0, periodMs: 500 } }),
      ),
    ).toContain("hunts");
    expect(codesOf(requestOf({ events: [{ atS: 25, kind: "meter-lost" }] }))).toContain("fallback");
    expect(
      codesOf(
        requestOf({ controller: { kind: "integral", gainPerS: 0.5, setPointW: 4900, deadBandW: 50, periodMs: 500 } }),
      ),
    ).toEqual([]);
  });

  it(
    "a set-point that is safe for an error is safe for each smaller one, and the tighter the larger error " +
      "and dead band are",
    () => {
      fc.assert(
        fc.property(
          fc.double({ min: 0, max: 50_000, noNaN: true }),
          fc.double({ min: 0, max: 10, noNaN: true }),
          fc.double({ min: 0, max: 500, noNaN: true }),
          (limitW, errorPct, deadBandW) => {
            const setW = safeSetPointW(limitW, errorPct, deadBandW);
            expect(setW).toBeGreaterThanOrEqual(0);
            // What the meter shows too little, and the dead band on top, stay within the limit.
            if (setW > 0)
              expect((setW + deadBandW) * (1 + errorPct / 100)).toBeLessThanOrEqual(
                limitW + deadBandW * (errorPct / 100) + deadBandW + 1e-6,
              );
            expect(safeSetPointW(limitW, errorPct + 1, deadBandW)).toBeLessThanOrEqual(setW + 1e-9);
            expect(safeSetPointW(limitW, errorPct, deadBandW + 10)).toBeLessThanOrEqual(setW + 1e-9);
          },
        ),
      );
    },
  );

  it("names the longest part of the delay, and their sum", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 10, max: 5000 }),
        fc.integer({ min: 0, max: 5000 }),
        fc.integer({ min: 20, max: 5000 }),
        fc.integer({ min: 0, max: 3000 }),
        (samplePeriodMs, delayMs, periodMs, deadTimeMs) => {
          const request = requestOf();
          const budget = delayBudget({
            meter: { ...request.meter, samplePeriodMs, delayMs },
            controller: { ...request.controller, periodMs },
            inverters: [{ ...request.inverters[0]!, deadTimeMs }],
          });
          expect(budget.total).toBe(samplePeriodMs + delayMs + periodMs + deadTimeMs + 400);
          expect(budget[budget.dominant as "sampling"]).toBe(
            Math.max(samplePeriodMs, delayMs, periodMs, deadTimeMs, 400),
          );
        },
      ),
    );
  });

  it("an inverter makes no more than its sun and never less than nothing, and changes no faster than its ramp", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 500, max: 8000 }),
        fc.double({ min: 0.05, max: 5, noNaN: true }),
        (rampWPerS, gainPerS) => {
          const request = requestOf({
            durationS: 30,
            inverters: [
              {
                id: "a",
                ratedW: 10_000,
                availableW: 9000,
                phases: ["L1", "L2", "L3"],
                deadTimeMs: 100,
                tauMs: 300,
                rampWPerS,
                minW: 0,
              },
            ],
            controller: { kind: "integral", gainPerS, setPointW: 3000, deadBandW: 20, periodMs: 500 },
          });
          const { inverterW, steps, stepS } = simulateExport(request);
          const made = Array.from({ length: steps }, (_, step) => inverterW[step]!);
          expect(Math.max(...made)).toBeLessThanOrEqual(9000 + 1e-6);
          expect(Math.min(...made)).toBeGreaterThanOrEqual(0);
          expect(Math.max(...made.slice(1).map((watts, at) => Math.abs(watts - made[at]!)))).toBeLessThanOrEqual(
            rampWPerS * stepS + 1e-6,
          );
        },
      ),
      { numRuns: 15 },
    );
  });

  it("a calmer recording is never judged worse: less export at every moment keeps a verdict that holds", () => {
    const traceOf = (exportW: readonly number[]) => ({ tS: exportW.map((_, at) => at), exportW });
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 4990 }), { minLength: 10, maxLength: 60 }), (exportW) => {
        const rule = { powerW: 5000, secondsAllowed: 5 };
        const judged = judgeExport(traceOf(exportW), rule, 50);
        expect(judged.secondsOver).toBe(0);
        expect(["holds", "hunts"]).toContain(judged.verdict);
        const spike = judgeExport(traceOf([...exportW.slice(0, 3), 9000, ...exportW.slice(3)]), rule, 50);
        expect(spike.longestOverS).toBe(1);
        expect(spike.maxExportW).toBe(9000);
      }),
    );
  });
});

describe("who sees what, on every kind of site", () => {
  it.each(PATTERNS)(
    "%s: each controller's sight of each device is one of five words, and findings follow from them",
    (id) => {
      const { site, kits, links } = jobFromPattern(id);
      const sights = whoSeesWhat(resolve({ site, kits, links }), "planned");
      for (const { factor, words } of sights) {
        expect(Number.isFinite(factor)).toBe(true);
        expect(words === "seen").toBe(Math.abs(factor - 1) < 0.05);
        expect(words === "seen the wrong way").toBe(factor <= -0.05);
      }
      const findings = sightFindings(resolve({ site, kits, links }), sights);
      expect(findings.filter(({ severity }) => severity !== "note")).toEqual([]);
      expect(new Set(findings.map((finding) => finding.id)).size).toBe(findings.length);
      for (const blind of blindControllers({ site }, sights))
        expect(sights.some(({ controller }) => controller.id === blind.id)).toBe(false);
    },
  );

  it("says that a battery can feed a heater whose meter sees it, and what a controller does not see", () => {
    const cottage = jobFromPattern("diverter-and-hub");
    const [own] = cottage.site.meters;
    const diverter = cottage.site.nodes.find(({ kind }) => kind === "diverter")!;
    const grid = {
      ...own!,
      id: "diverter-ct",
      name: "Diverter's CT",
      kit: diverter.kit!,
      partOf: diverter.id,
      inputs: [own!.inputs[0]!],
    };
    const site = { ...cottage.site, meters: [...cottage.site.meters, grid] };
    expect(
      sightFindings(resolve({ ...cottage, site }), whoSeesWhat(resolve({ ...cottage, site }), "planned")).map(
        ({ code }) => code,
      ),
    ).toContain("battery-feeds-heater");
    const narrow = {
      ...site,
      meters: site.meters.map((meter) =>
        meter.id === "diverter-ct"
          ? {
              ...meter,
              inputs: meter.inputs.map((input) => ({
                ...input,
                measures: [{ run: "solar", conductor: "L1" as const }],
              })),
            }
          : meter,
      ),
    };
    expect(
      sightFindings(
        resolve({ ...cottage, site: narrow }),
        whoSeesWhat(resolve({ ...cottage, site: narrow }), "planned"),
      )
        .filter(({ code }) => code === "not-seen")
        .map(({ subject }) => subject),
    ).toContainEqual({ kind: "node", node: "house" });
  });
});

describe("a backup output", () => {
  it("is held against a start of motors, and against loads that lean on one phase", () => {
    const backed = jobFromPattern("hybrid-high-voltage");
    const [load] = backed.site.nodes.filter(({ id }) => id === "backed");
    const pump = { ...load!, id: "pump", kind: "heat-pump" as const, name: "Heat pump", ratedW: 4000 };
    expect(
      backupChecks(resolve({ ...backed, site: { ...backed.site, nodes: [...backed.site.nodes, pump] } })).map(
        ({ code }) => code,
      ),
    ).toContain("backup-surge");
    const three = shippedPatterns()
      .map(({ id }) => jobFromPattern(id))
      .find(
        ({ site }) =>
          site.supply.system !== "single-phase" &&
          site.nodes.some(({ kind, phases }) => kind === "hybrid-inverter" && (phases?.length ?? 2) > 1),
      )!;
    const hybrid = three.site.nodes.find(({ kind }) => kind === "hybrid-inverter")!;
    const leaning = {
      ...three.site.nodes.find(({ kind }) => kind === "load")!,
      id: "leaning",
      name: "Oven",
      fedFrom: hybrid.id,
      phases: ["L1" as const],
      ratedW: 2000,
    };
    const even = { ...leaning, id: "even", name: "Lamps", phases: ["L2" as const], ratedW: 300 };
    const bare = three.site.nodes.filter(
      ({ kind }) => kind !== "load" && kind !== "heat-pump" && kind !== "ev-charger",
    );
    const codesWith = (...loads: JobDocument["site"]["nodes"]) =>
      backupChecks(resolve({ ...three, site: { ...three.site, nodes: [...bare, ...loads] } })).map(({ code }) => code);
    expect(codesWith(leaning, even)).toContain("backup-balance");
    expect(codesWith(leaning, { ...even, ratedW: 1900 })).not.toContain("backup-balance");
  });
});

describe("the surplus of every kind of site", () => {
  it.each(PATTERNS)(
    "%s: a day adds up in every order, costs least in none that is forgotten, and sizes vary one thing",
    (id) => {
      const request = diversionOfPlan(resolve(jobFromPattern(id)), { days: 1, stepMin: 5, series: false });
      const { totals } = diversion(request);
      expect(totals).toHaveLength(request.orders.length);
      for (const total of totals) {
        expect(total.sunKwh + total.importKwh + total.batteryOutKwh).toBeCloseTo(
          total.houseKwh + total.exportKwh + total.heaterKwh + total.vehicleKwh + total.batteryInKwh,
          6,
        );
        for (const value of Object.values(total))
          if (typeof value === "number") expect(Number.isFinite(value)).toBe(true);
        expect(total.selfUseKwh).toBeLessThanOrEqual(total.sunKwh + 1e-9);
      }
      const variants = sizeVariants(request);
      expect(new Set(variants.map(({ name, request: own }) => `${name} ${own.orders[0]!.join()}`)).size).toBe(
        variants.length,
      );
      for (const { request: own } of variants) expect(own.orders).toHaveLength(1);
    },
  );

  const family = (change: object): DiversionRequest =>
    diversionRequestSchema.parse({
      days: 3,
      stepMin: 5,
      fields: [{ kwp: 5 }],
      battery: { capacityKwh: 5, powerW: 3000 },
      heater: { ratedW: 3000 },
      orders: [["battery", "heater"]],
      ...change,
    });

  it("more sun never imports more, a larger battery never exports more, and a hotter thermostat takes no less", () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.5, max: 8, noNaN: true }),
        fc.double({ min: 0.5, max: 12, noNaN: true }),
        fc.nat(200),
        (kwp, capacityKwh, seed) => {
          const of = (change: object) =>
            diversion(
              family({ seed, fields: [{ kwp }], battery: { capacityKwh, powerW: 3000, startSocPct: 10 }, ...change }),
            ).totals[0]!;
          const base = of({});
          expect(of({ fields: [{ kwp: kwp + 1 }] }).importKwh).toBeLessThanOrEqual(base.importKwh + 1e-6);
          expect(
            of({ heater: undefined, battery: { capacityKwh: capacityKwh + 2, powerW: 3000, startSocPct: 10 } })
              .exportKwh,
          ).toBeLessThanOrEqual(of({ heater: undefined }).exportKwh + 0.25 * 3);
          expect(of({ heater: { ratedW: 3000, thermostatC: 75 } }).heaterKwh).toBeGreaterThanOrEqual(
            base.heaterKwh - 1e-6,
          );
        },
      ),
      { numRuns: 15 },
    );
  });
});

describe("sun, house and files", () => {
  it("the sun is up for as long after noon as before, and no field makes more than its rating and a little", () => {
    const place = { latDeg: 48, lonDeg: 0, utcOffsetH: 0 };
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 365 }),
        fc.integer({ min: 0, max: 1439 }),
        fc.integer({ min: 0, max: 90 }),
        fc.integer({ min: 0, max: 360 }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (day, minute, tiltDeg, azimuthDeg, clearness) => {
          const sun = sunPosition(place, day, minute);
          expect(Math.abs(sun.elevationDeg)).toBeLessThanOrEqual(90);
          expect(sun.azimuthDeg >= 0 && sun.azimuthDeg <= 360).toBe(true);
          const powerW = fieldPowerW({ kwp: 1, tiltDeg, azimuthDeg }, sun, day, clearness);
          expect(powerW).toBeGreaterThanOrEqual(0);
          expect(powerW).toBeLessThanOrEqual(1250);
          if (sun.elevationDeg <= 0) expect(powerW).toBe(0);
        },
      ),
    );
  });

  it.each(Object.keys(ARCHETYPES) as Archetype[])(
    "a house of %s draws what was asked in a year, always something, and the same for the same seed",
    (archetype) => {
      const year = houseSeries(archetype, 3500, 365, 15, 3);
      expect(year.reduce((sum, watts) => sum + watts, 0) / 4000).toBeCloseTo(3500, 0);
      expect(year.every((watts) => watts > 0)).toBe(true);
      expect([...houseSeries(archetype, 3500, 2, 15, 3)]).toEqual([...houseSeries(archetype, 3500, 2, 15, 3)]);
      expect([...houseSeries(archetype, 3500, 2, 15, 4)]).not.toEqual([...houseSeries(archetype, 3500, 2, 15, 3)]);
    },
  );

  it("a file stands for its stretch of time evenly, and a bad row is told by its number", () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 0, max: 9000 }), { minLength: 12, maxLength: 60 }),
        fc.integer({ min: 1, max: 5 }),
        (values, times) => {
          const outcome = seriesOfValues(
            values.map((value) => ["x", String(value)]),
            values.length * times,
          );
          expect(outcome).toEqual({
            kind: "series",
            values: values.flatMap((value) => Array<number>(times).fill(value)),
          });
        },
      ),
    );
    expect(seriesOfValues([["W"], ...Array.from({ length: 12 }, (_, at) => [at === 4 ? "-1" : "5"])], 24)).toEqual({
      kind: "bad",
      message: "row 6 is no power in W from 0 up",
    });
    expect(seriesOfValues([["1"], ["2"]], 24)).toEqual({ kind: "bad", message: "2 values; a day has at least 12" });
  });
});
