import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { plainFinding } from "@/core/findings";
import { plainText } from "@/core/sentence";
import { resolve } from "@/core/plan/resolve";
import { controlFindings, limitState } from "@/core/control/controlFindings";
import { diversion, diversionInSlices, surplusOrders } from "@/core/simulation/diversion";
import { diversionRequestSchema, type DiversionRequest } from "@/core/simulation/diversionSchema";
import { diversionOfPlan, sizeVariants } from "@/core/control/divertOfPlan";
import { exportLimit, safeSetPointW } from "@/core/simulation/exportLimit";
import { judgeExport } from "@/core/simulation/judgeExport";
import { exportLimitRequestSchema } from "@/core/simulation/exportLimitSchema";
import { backupChecks } from "@/core/control/backupChecks";
import { heaterChecks } from "@/core/control/heaterChecks";
import { hubChecks } from "@/core/control/hubChecks";
import { houseSeries } from "@/core/simulation/house";
import { settingsApart, simulateHunt, type Integrator } from "@/core/simulation/hunting";
import { islandReadings } from "@/core/control/islandReadings";
import { limitCost, limitCostRequestSchema } from "@/core/simulation/limitCost";
import { entryOfLimit, limitEntries } from "@/core/control/limitEntries";
import { limitLacks, exportLimiter, limitRequest, responseTexts, SCENARIOS } from "@/core/control/exportLimiter";
import { seriesOfValues } from "@/core/simulation/seriesOfValues";
import { simulateDiversion, type DiversionSeries } from "@/core/simulation/diversion/simulateDiversion";
import { simulateExport } from "@/core/simulation/feedIn/simulateExport";
import { RIGHT_SIGHT, sightMistakes, wrongSights } from "@/core/control/sightOfPlan";
import { judgedProof, recordingOfRows, stepTestRecipe } from "@/core/control/stepTest";
import { fieldPowerW, sunPosition, sunSeries } from "@/core/simulation/sun";
import { blindControllers, whoSeesWhat } from "@/core/control/whoSeesWhat";
import { divertSettingsSchema } from "@/core/plan/divertSettings";
import { limitSettingsSchema } from "@/core/plan/limitSettings";
import type { JobDocument } from "@/core/job/jobDocument";
import { changeNode } from "@/core/edits/editPlan";
import { limitRequestOf } from "../../../tests/fixtures/limitRequest";
import { jobFromPattern, shippedPatterns } from "../../../tests/fixtures/shipped";
import { plainDiversion } from "../../../tests/reference/plainDiversion";
import { plainExport } from "../../../tests/reference/plainExport";

const PLACE = { latDeg: 52, lonDeg: 0, utcOffsetH: 0 };
const farm = withLimit(jobFromPattern("export-controller"), 12_000);
const cottage = jobFromPattern("diverter-and-hub");

function withLimit(job: JobDocument, powerW: number): JobDocument {
  return { ...job, limit: limitSettingsSchema.parse({ powerW }) };
}

const anyLimit = fc
  .record({
    gainPerS: fc.double({ min: 0.05, max: 3, noNaN: true }),
    delayMs: fc.integer({ min: 0, max: 1500 }),
    tauMs: fc.integer({ min: 0, max: 1500 }),
    ratedW: fc.integer({ min: 2000, max: 20_000 }),
    loadW: fc.integer({ min: 0, max: 8000 }),
    basis: fc.constantFrom("sum" as const, "per-phase" as const),
    kind: fc.constantFrom("integral" as const, "proportional" as const),
    lost: fc.boolean(),
    hasBattery: fc.boolean(),
    periodMs: fc.constantFrom(500, 250, 333),
    samplePeriodMs: fc.constantFrom(200, 170),
  })
  .map(({ gainPerS, delayMs, tauMs, ratedW, loadW, basis, kind, lost, hasBattery, periodMs, samplePeriodMs }) =>
    limitRequestOf({
      durationS: 40,
      limit: { powerW: 4000, basis, secondsAllowed: 5 },
      inverters: [
        {
          id: "a",
          ratedW,
          availableW: 0.9 * ratedW,
          phases: ["L1", "L2", "L3"],
          tauMs,
          rampWPerS: 3000,
          lostMeter: { afterMs: 5000, fallbackW: 200 },
        },
        { id: "b", ratedW: 3000, availableW: 2500, phases: ["L2"], tauMs: tauMs / 2 },
      ],
      meter: { samplePeriodMs, delayMs, errorPct: 1 },
      controller: { kind, gainPerS, setPointW: 3900, deadBandW: 20, periodMs },
      loads: [
        { atS: 0, phase: "L1", powerW: loadW },
        { atS: 15, phase: "L2", powerW: loadW / 2 },
        { atS: 25, phase: "L1", powerW: 0 },
      ],
      events: [{ atS: 10, kind: "sun", id: "b", availableW: 300 }, ...(lost ? [{ atS: 20, kind: "meter-lost" }] : [])],
      ...(hasBattery
        ? {
            battery: { phases: ["L1"], gainPerS: 0.2, setPointW: 0, periodMs: 1000, tauMs: 200, powerW: 2500 },
            diverter: { phases: ["L3"], gainPerS: 0.1, setPointW: -50, periodMs: 1000, tauMs: 100, ratedW: 3000 },
          }
        : {}),
    }),
  );

describe("the export limit in time", () => {
  it("adds up on every phase and in sum at every step", () => {
    fc.assert(
      fc.property(anyLimit, (request) => {
        const run = simulateExport(request);
        for (let step = 0; step < run.steps; step++) {
          const phases = run.phaseW.reduce((sum, watts) => sum + watts[step]!, 0);
          expect(Math.abs(phases - run.gridW[step]!)).toBeLessThan(1e-6);
          expect(Math.abs(run.eachW.reduce((sum, watts) => sum + watts[step]!, 0) - run.inverterW[step]!)).toBeLessThan(
            1e-6,
          );
          expect(
            Math.abs(
              run.loadW[step]! + run.batteryW[step]! + run.diverterW[step]! - run.inverterW[step]! - run.gridW[step]!,
            ),
          ).toBeLessThan(1e-6);
        }
      }),
      { numRuns: 25 },
    );
  });

  it("is the same as the plain one, step by step", () => {
    fc.assert(
      fc.property(anyLimit, (request) => {
        const [fast, plain] = [simulateExport(request), plainExport(request)];
        expect(plain).toHaveLength(fast.steps);
        plain.forEach((point, step) => {
          expect(Math.abs(point.gridW - fast.gridW[step]!)).toBeLessThan(1e-6);
          expect(Math.abs(point.inverterW - fast.inverterW[step]!)).toBeLessThan(1e-6);
        });
      }),
      { numRuns: 20 },
    );
  });

  it("does not change by more than 1 % when the step is halved", () => {
    const [whole, half] = [limitRequestOf(), limitRequestOf({ stepMs: 10 })].map(exportLimit);
    for (const key of ["maxExportW", "settledExportW"] as const)
      expect(Math.abs(half![key] / whole![key] - 1)).toBeLessThan(0.01);
    expect(Math.abs(half!.longestOverS - whole!.longestOverS)).toBeLessThan(0.1);
  });

  it("settles at the set-point, holds after a load drop, and hunts above the gain that it names", () => {
    const calm = exportLimit(limitRequestOf());
    expect(calm.verdict).toBe("holds");
    expect(calm.settledExportW).toBeGreaterThan(4700);
    expect(calm.settledExportW).toBeLessThan(5000);
    expect(calm.maxExportW).toBeGreaterThan(5000);
    const gain = exportLimit(limitRequestOf()).maxStableGainPerS;
    expect(calm.maxStableGainPerS).toBe(gain);
    const at = (gainPerS: number) =>
      exportLimit(
        limitRequestOf({ controller: { kind: "integral", gainPerS, setPointW: 4900, deadBandW: 50, periodMs: 500 } }),
      );
    expect(at(0.8 * gain).oscillates).toBe(false);
    expect(at(1.6 * gain)).toMatchObject({ oscillates: true, verdict: "hunts" });
  });

  it("bears less gain with more delay, and says which delay is most", () => {
    const gainAt = (delayMs: number) =>
      exportLimit(limitRequestOf({ meter: { samplePeriodMs: 200, delayMs, errorPct: 0 } })).maxStableGainPerS;
    expect(gainAt(2000)).toBeLessThan(gainAt(200));
    expect(
      exportLimit(limitRequestOf({ meter: { samplePeriodMs: 200, delayMs: 2000, errorPct: 0 } })).delayBudgetMs,
    ).toMatchObject({ transport: 2000, dominant: "transport", total: 3300 });
  });

  it("falls back when the meter is lost, after its time", () => {
    const lost = exportLimit(limitRequestOf({ events: [{ atS: 20, kind: "meter-lost" }] }));
    expect(lost.fallbackS).toBeGreaterThan(10);
    expect(lost.fallbackS).toBeLessThan(15);
    expect(exportLimit(limitRequestOf()).fallbackS).toBeNull();
    expect(
      exportLimit(
        limitRequestOf({
          events: [
            { atS: 20, kind: "inverter-lost", id: "a" },
            { atS: 25, kind: "grid-lost" },
            { atS: 30, kind: "grid-return" },
          ],
        }),
      ).settledExportW,
    ).toBeLessThan(1);
  });

  it("takes off what the meter may hide, and finds a set-point without room", () => {
    expect(safeSetPointW(5000, 1.5, 50)).toBeCloseTo(4875, 1);
    expect(exportLimit(limitRequestOf()).recommendedSetPointW).toBeCloseTo(4875, 1);
    expect(exportLimit(limitRequestOf()).findings.map(({ code }) => code)).toContain("margin");
    expect(
      exportLimit(
        limitRequestOf({
          controller: { kind: "integral", gainPerS: 0.5, setPointW: 6000, deadBandW: 0, periodMs: 500 },
        }),
      ).verdict,
    ).toBe("too-high");
  });

  it("holds each phase where that is the rule", () => {
    const uneven = {
      limit: { powerW: 1500, basis: "per-phase" as const, secondsAllowed: 5 },
      loads: [{ atS: 0, phase: "L1", powerW: 3000 }],
      controller: { kind: "integral" as const, gainPerS: 0.3, setPointW: 1450, deadBandW: 10, periodMs: 500 },
    };
    const run = simulateExport(limitRequestOf(uneven));
    expect(Math.min(...run.phaseW.map((watts) => watts.at(-1)!))).toBeGreaterThan(-1510);
  });

  it("judges a recording by the rule: above for too long, too high, hunting", () => {
    const judge = (exportW: readonly number[]) =>
      judgeExport({ tS: exportW.map((_, at) => at), exportW }, { powerW: 5000, secondsAllowed: 5 }, 50).verdict;
    const settled = Array<number>(30).fill(4900);
    expect(judge([6200, 6000, 5500, ...settled])).toBe("holds");
    expect(judge([...Array<number>(8).fill(6000), ...settled])).toBe("too-long");
    expect(judge(Array<number>(30).fill(5100))).toBe("too-high");
    expect(judge(Array.from({ length: 40 }, (_, at) => 4500 + (at % 4 < 2 ? 400 : -400)))).toBe("hunts");
  });

  it.each([
    [{ stepMs: 60 }, "stepMs"],
    [{ durationS: 36_000, stepMs: 1 }, "durationS"],
    [{ system: "single-phase" }, "inverters.0.phases.1 inverters.0.phases.2"],
    [{ events: [{ atS: 1, kind: "inverter-lost", id: "z" }] }, "events.0.id"],
    [{ loads: [{ atS: 1, phase: "L4", powerW: 1 }] }, "loads.0.phase"],
  ])("refuses %j with the path of each problem", (change, paths) => {
    const parsed = exportLimitRequestSchema.safeParse({ ...limitRequestOf(), ...change });
    expect(parsed.error?.issues.map(({ path }) => path.join(".")).join(" ")).toBe(paths);
  });
});

describe("the limit of a plan", () => {
  it("knows who limits by what, with the delay of Wire", () => {
    const plan = exportLimiter(resolve(farm))!;
    expect(plan).toMatchObject({ controller: { id: "controller" }, meter: { id: "grid-meter" } });
    expect(plan.inverters).toHaveLength(3);
    expect(plan.readingMs).toBeGreaterThan(40);
    expect(plan.commandMs).toBeGreaterThan(100);
    expect(limitRequest(resolve(farm), plan, "load-drop").meter.delayMs).toBeCloseTo(
      plan.readingMs + plan.commandMs,
      6,
    );
    expect(exportLimiter(resolve(withLimit(jobFromPattern("hybrid-high-voltage"), 3000)))).toMatchObject({
      readingMs: 200,
      commandMs: 0,
    });
    expect(
      exportLimiter(resolve(withLimit(jobFromPattern("outbuilding-radio-pair"), 3000)))!.readingMs,
    ).toBeGreaterThan(200);
    expect(exportLimiter(resolve(jobFromPattern("power-line-modules")))).toBeUndefined();
  });

  it("says what is missing where nobody can limit: inverter, rating, grid input, or somebody who reads it", () => {
    const lacksOf = (change: (job: JobDocument) => Partial<JobDocument["site"]>, links = farm.links) =>
      limitLacks(resolve({ ...farm, links, site: { ...farm.site, ...change(farm) } })).join(" ");
    expect(lacksOf(() => ({}))).toBe("");
    expect(lacksOf(({ site }) => ({ nodes: site.nodes.filter(({ kind }) => kind !== "pv-inverter") }))).toContain(
      "no solar or hybrid inverter",
    );
    expect(lacksOf(({ site }) => ({ nodes: site.nodes.map(({ ratedW: _, ...node }) => node) }))).toContain(
      "No inverter has a rating",
    );
    expect(lacksOf(() => ({ meters: [] }))).toContain("No meter has an input for the grid");
    expect(lacksOf(() => ({}), [])).toContain("Nobody who can limit reads Grid meter");
    const found = controlFindings(resolve({ ...farm, links: [] })).map(plainFinding);
    expect(found.find(({ code }) => code === "nobody-limits")?.detail).toContain(
      "12000 W are allowed. Nobody who can limit reads Grid meter",
    );
    for (const { id } of shippedPatterns()) {
      const job = withLimit(jobFromPattern(id), 3000);
      expect(limitLacks(resolve(job)).length === 0).toBe(exportLimiter(resolve(job)) !== undefined);
    }
  });

  it("takes dead time, lag and ramp from each inverter's kit, and says where it has to take usual ones", () => {
    const plan = exportLimiter(resolve(farm))!;
    expect(limitRequest(resolve(farm), plan, "load-drop").inverters[0]).toMatchObject({
      deadTimeMs: 150,
      tauMs: 350,
      rampWPerS: 6000,
    });
    expect(responseTexts(resolve(farm), plan)).toEqual([
      `${plan.inverters.map(({ name }) => name).join(", ")}: dead time 150 ms, lag 350 ms, 60 % a second, by the kit`,
    ]);
    const silent = {
      ...farm,
      kits: farm.kits.map((kit) =>
        kit.exportLimit ? { ...kit, exportLimit: { ...kit.exportLimit, response: undefined } } : kit,
      ),
    };
    expect(limitRequest(resolve(silent), plan, "load-drop").inverters[0]).toMatchObject({
      deadTimeMs: 200,
      tauMs: 400,
      rampWPerS: 5000,
    });
    expect(responseTexts(resolve(silent), plan)[0]).toContain("usual values");
  });

  it.each(SCENARIOS.map(({ id }) => id))("is tried by %s, in every pattern that can limit", (scenario) => {
    for (const { id } of shippedPatterns()) {
      const job = withLimit(jobFromPattern(id), 3000);
      const plan = exportLimiter(resolve(job));
      if (!plan) continue;
      const result = exportLimit(
        limitRequest(
          resolve({
            ...job,
            limit: {
              ...job.limit,
              events: [
                { atS: 5, what: "load", phase: "L1", inverter: "", powerW: 900 },
                { atS: 8, what: "meter-lost", phase: "L1", inverter: "", powerW: 0 },
              ],
            },
          }),
          plan,
          scenario,
        ),
      );
      expect(Number.isFinite(result.settledExportW)).toBe(true);
    }
  });

  it("lets battery and heater of the plan take part where that is asked for", () => {
    const job = withLimit(jobFromPattern("outbuilding-radio-pair"), 1000);
    const plan = exportLimiter(resolve(job))!;
    expect(limitRequest(resolve(job), plan, "load-drop")).not.toHaveProperty("battery");
    const helped = exportLimit(limitRequest(resolve(job), plan, "load-drop", true));
    expect(Math.min(...helped.series.batteryW)).toBeGreaterThanOrEqual(-3000);
    expect(Math.max(...helped.series.batteryW)).toBeGreaterThan(100);
  });

  it("rounds to what a kit holds, always to the safe side", () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 60_000, noNaN: true }),
        fc.constantFrom(
          { unit: "W" as const, step: 100 },
          { unit: "W" as const, step: 1 },
          { unit: "percent" as const, step: 1 },
          { unit: "percent" as const, step: 0.1 },
        ),
        (limitW, { unit, step }) => {
          const entry = entryOfLimit(
            { basis: ["sum"], unit, min: 0, max: unit === "W" ? 30_000 : 100, step },
            limitW,
            30_000,
          );
          expect(entry.trueW).toBeLessThanOrEqual(limitW + 1e-6);
          expect(entry.trueW).toBeGreaterThan(Math.min(limitW, 30_000) - (unit === "W" ? step : 300 * step) - 1e-6);
        },
      ),
    );
    expect(entryOfLimit({ basis: ["sum"], unit: "percent", min: 0, max: 100, step: 1 }, 4876, 10_000).text).toBe(
      "48 %",
    );
    expect(entryOfLimit({ basis: ["sum"], unit: "W", min: 500, max: 9000, step: 100 }, 100, 10_000)).toMatchObject({
      isPossible: false,
      text: "500 W",
    });
  });

  it("lists every value to type, and finds what cannot be entered", () => {
    const entries = limitEntries(resolve(farm), exportLimiter(resolve(farm))!);
    expect(entries[0]!.entries.map(({ field }) => field)).toEqual(
      expect.arrayContaining(["Export limit", "On", "Inverters", "Capacity, summed", "Dead band", "Fail-safe"]),
    );
    expect(entries.flatMap(({ entries: own }) => own.map(({ field }) => field))).toEqual(
      expect.arrayContaining(["CT ratio of A1", "Bus address"]),
    );
    const perPhase = {
      ...jobFromPattern("two-ct-add-on"),
      limit: limitSettingsSchema.parse({ powerW: 2000, basis: "per-phase" }),
    };
    expect(
      controlFindings(resolve(perPhase))
        .filter(({ stage }) => stage === "limit")
        .map(({ code }) => code),
    ).toContain("limit-entry");
    expect(
      controlFindings(resolve(withLimit(jobFromPattern("power-line-modules"), 1000))).map(({ code }) => code),
    ).toContain("nobody-limits");
  });

  it("costs more the lower it is, and nothing above all that is ever exported", () => {
    const cost = (limitW: number, setPointW: number, houseOnPhase: readonly number[] = [1]) =>
      limitCost(
        limitCostRequestSchema.parse({
          place: PLACE,
          fields: [{ kwp: 10 }],
          cloudiness: 0.5,
          seed: 1,
          house: { archetype: "family", kwhYear: 4000 },
          limitW,
          setPointW,
          houseOnPhase,
        }),
      );
    expect(cost(20_000, 20_000)).toMatchObject({ limitKwh: 0, marginKwh: 0 });
    const [low, high] = [cost(3000, 2900), cost(5000, 4900)];
    expect(low.limitKwh).toBeGreaterThan(high.limitKwh);
    expect(low.marginKwh).toBeGreaterThan(0);
    expect(cost(3000, 3000, [1, 0, 0]).perPhaseKwh).toBeGreaterThan(
      cost(3000, 3000, [1 / 3, 1 / 3, 1 / 3]).perPhaseKwh + 1,
    );
  });
});

describe("the step test", () => {
  const limit = farm.limit;

  it("names what to switch, how long to watch, and the numbers", () => {
    const recipe = stepTestRecipe(
      limit,
      exportLimiter(resolve(farm))!,
      farm.site.nodes.filter(({ kind }) => kind === "test-load"),
      farm.site.supply,
    ).join("\n");
    expect(recipe).toContain("watch for 35 s");
    expect(recipe).toContain("12000 W");
  });

  it("reads powers in the unit that the column names or that was chosen, and asks where nothing says it", () => {
    const rows = (name: string, ...texts: readonly string[]) =>
      texts.map((own, at) => ({ t: String(at), [name]: own }));
    const read = (power: string, texts: readonly string[], unit?: "W" | "kW") =>
      recordingOfRows(rows(power, ...texts), { time: "t", power, isExportPositive: true, ...(unit ? { unit } : {}) });
    const recorded = (...exportW: readonly number[]) => ({ kind: "recording", recording: { exportW } });
    expect(read("Grid (kW)", ["4.2", "6.1 W", "1"])).toMatchObject(recorded(4200, 6.1, 1000));
    expect(read("Grid (W)", ["4200", "6.1 kW", "1000"])).toMatchObject(recorded(4200, 6100, 1000));
    expect(read("Grid", ["4.2", "6.1", "1"], "kW")).toMatchObject(recorded(4200, 6100, 1000));
    expect(read("Grid (W)", ["4.2", "6.1", "1"], "kW")).toMatchObject(recorded(4200, 6100, 1000));
    expect(read("Grid", ["4.2 kW", "6.1 kW", "1 kW"])).toMatchObject(recorded(4200, 6100, 1000));
    for (const name of ["Grid", "Grid (kWh)"])
      expect(read(name, ["4.2", "6.1 kW", "1"])).toEqual({
        kind: "bad",
        problems: [`In which unit is “${name}”? The file does not say it: choose it above`],
      });
  });

  it("reads columns with times of the clock or seconds, comma or point, W or kW, either sign", () => {
    const columns = { time: "t", power: "p", isExportPositive: false, unit: "W" as const };
    expect(
      recordingOfRows(
        [
          { t: "12:00:00", p: "-4,2 kW" },
          { t: "12:00:01", p: "−6100" },
          { t: "12:00:02", p: "100" },
        ],
        columns,
      ),
    ).toEqual({ kind: "recording", recording: { tS: [0, 1, 2], exportW: [4200, 6100, -100] } });
    expect(
      recordingOfRows(
        [
          { t: "0", p: "1" },
          { t: "x", p: "1" },
          { t: "2", p: "many" },
        ],
        columns,
      ),
    ).toEqual({ kind: "bad", problems: ["Row 3: “x” is no time", "Row 4: “many” is no power"] });
    expect(recordingOfRows([{ t: "0", p: "1" }], columns)).toMatchObject({ kind: "bad" });
    const powers = (...texts: readonly string[]) =>
      recordingOfRows(
        texts.map((p, at) => ({ t: String(at), p })),
        columns,
      );
    expect(powers("1,240 kW", "0,5 kW", "2,47 kW")).toMatchObject({ recording: { exportW: [-1240, -500, -2470] } });
    expect(powers("1,240", "1,240.5", "900")).toMatchObject({ recording: { exportW: [-1240, -1240.5, -900] } });
    expect(powers("1,240", "3,600", "2,000")).toMatchObject({
      kind: "bad",
      problems: [expect.stringContaining("two ways")],
    });
  });

  it("is judged by the same code as the simulation, and kept thinned", () => {
    const { series, verdict } = exportLimit({
      ...limitRequest(resolve(farm), exportLimiter(resolve(farm))!, "load-drop"),
    });
    const long = Array.from({ length: 3000 }, (_, at) => at / 50);
    const proof = judgedProof(
      {
        tS: long,
        exportW: long.map(
          (t) => -series.gridW[Math.min(series.gridW.length - 1, Math.floor((t / 60) * series.gridW.length))]!,
        ),
      },
      limit,
      {
        id: "00000000-0000-4000-8000-000000000001",
        at: "2026-11-26T10:00:00.000Z",
        person: "Kim",
        label: "Kettle off",
      },
      ["L1", "L2", "L3"],
    );
    expect(proof.tS.length).toBeLessThanOrEqual(600);
    expect(proof.verdict).toBe(verdict);
    expect(limitState({ ...limit, proofs: [{ ...proof, verdict: "holds" }] })).toBe("proved");
    const ofOther = { ...farm, limit: { ...limit, powerW: 9000, proofs: [{ ...proof, verdict: "holds" as const }] } };
    expect(limitState(ofOther.limit)).toBe("not proved");
    expect(controlFindings(resolve(ofOther)).map(({ code }) => code)).toContain("proof-of-another-limit");
    const failed = { ...farm, limit: { ...limit, proofs: [{ ...proof, verdict: "too-high" as const }] } };
    expect(controlFindings(resolve(failed)).map(({ code }) => code)).toContain("proof-failed");
  });
});

describe("a step test without enough sun", () => {
  it.each([
    [4850, 12_000, undefined, "untested"],
    [4850, 5000, undefined, "holds"],
    [4850, 12_000, 5000, "holds"],
    [-300, 0, undefined, "untested"],
    [-20, 0, undefined, "holds"],
    [13_000, 12_000, undefined, "too-high"],
  ] as const)("a steady %d W under a limit of %d W, set to %j, is %s", (exportW, powerW, setPointW, verdict) => {
    const limit = { ...farm.limit, powerW, ...(setPointW === undefined ? {} : { setPointW }) };
    const recording = { tS: [0, 1, 2, 3], exportW: [exportW, exportW, exportW, exportW] };
    const about = {
      id: "00000000-0000-4000-8000-000000000002",
      at: "2026-11-26T10:00:00.000Z",
      person: "Kim",
      label: "Kettle off",
    };
    const proof = judgedProof(recording, limit, about, ["L1", "L2", "L3"]);
    expect(proof.verdict).toBe(verdict);
    expect(limitState({ ...limit, proofs: [proof] })).toBe(
      verdict === "holds" ? "proved" : verdict === "untested" ? "not proved" : "not held",
    );
    expect(
      controlFindings(resolve({ ...farm, limit: { ...limit, proofs: [proof] } }))
        .map(({ code }) => code)
        .filter((code) => code.startsWith("proof")),
    ).toEqual(verdict === "holds" ? [] : [verdict === "untested" ? "proof-untested" : "proof-failed"]);
  });
});

describe("the sun", () => {
  it("stands where it should: noon at midsummer and at the equinox, due south, below at night", () => {
    expect(sunPosition(PLACE, 172, 722).elevationDeg).toBeCloseTo(61.4, 0);
    expect(sunPosition(PLACE, 80, 727).elevationDeg).toBeCloseTo(38, 0);
    expect(sunPosition(PLACE, 172, 722).azimuthDeg).toBeCloseTo(180, -1);
    expect(sunPosition(PLACE, 172, 0).elevationDeg).toBeLessThan(0);
    expect(sunPosition({ latDeg: -34, lonDeg: 151, utcOffsetH: 10 }, 355, 720).elevationDeg).toBeGreaterThan(75);
  });

  it("gives most to a field that faces it, and nothing at night", () => {
    const noon = sunPosition(PLACE, 355, 720);
    const south = fieldPowerW({ kwp: 5, tiltDeg: 60, azimuthDeg: 180 }, noon, 355, 1);
    expect(south).toBeGreaterThan(fieldPowerW({ kwp: 5, tiltDeg: 60, azimuthDeg: 0 }, noon, 355, 1));
    expect(south).toBeGreaterThan(fieldPowerW({ kwp: 5, tiltDeg: 0, azimuthDeg: 180 }, noon, 355, 1));
    expect(fieldPowerW({ kwp: 5, tiltDeg: 60, azimuthDeg: 180 }, { elevationDeg: -5, azimuthDeg: 0 }, 355, 1)).toBe(0);
  });

  it("makes a year of a usual size, less under clouds, the same for the same seed", () => {
    const year = (cloudiness: number) =>
      sunSeries(PLACE, [{ kwp: 1, tiltDeg: 35, azimuthDeg: 180 }], 1, 365, 10, cloudiness, 3).reduce(
        (sum, watts) => sum + watts,
        0,
      ) / 6000;
    expect(year(0.6)).toBeGreaterThan(750);
    expect(year(0.6)).toBeLessThan(1250);
    expect(year(1)).toBeLessThan(year(0.3));
    expect(year(0.6)).toBe(year(0.6));
  });
});

describe("the house", () => {
  it("draws in a year what was asked, whoever lives there", () => {
    for (const archetype of ["working-couple", "family", "home-all-day", "workshop"] as const) {
      const series = houseSeries(archetype, 4000, 365, 5, 2);
      expect(series.reduce((sum, watts) => sum + watts, 0) / 12_000).toBeCloseTo(4000, 3);
      expect(Math.min(...series)).toBeGreaterThan(0);
    }
  });
});

describe("diversion", () => {
  const request = (change: object = {}): DiversionRequest =>
    diversionRequestSchema.parse({
      days: 7,
      stepMin: 5,
      fields: [{ kwp: 5 }],
      battery: { capacityKwh: 5, powerW: 3000 },
      heater: { ratedW: 3000 },
      vehicle: {},
      orders: surplusOrders(["battery", "heater", "vehicle"]),
      ...change,
    });
  const anyFactor = fc.constantFrom(-1, 0, 0.5, 1, 2);
  const anySight = fc.record({
    sun: anyFactor,
    house: anyFactor,
    battery: anyFactor,
    heater: anyFactor,
    vehicle: anyFactor,
  });
  const anyDiversion = fc
    .record({
      kwp: fc.double({ min: 0.5, max: 15, noNaN: true }),
      capacityKwh: fc.double({ min: 0.5, max: 20, noNaN: true }),
      steps: fc.integer({ min: 0, max: 3 }),
      order: fc.constantFrom(...surplusOrders(["battery", "heater", "vehicle"])),
      sharedCt: fc.boolean(),
      setPointW: fc.integer({ min: -100, max: 200 }),
      seed: fc.nat(999),
      boostToH: fc.constantFrom(0, 5),
      sight: fc.option(fc.record({ battery: anySight, heater: anySight }), { nil: undefined }),
    })
    .map(({ kwp, capacityKwh, steps, order, sharedCt, setPointW, seed, boostToH, sight }) =>
      request({
        fields: [{ kwp }],
        battery: { capacityKwh, powerW: 2500 },
        heater: { ratedW: 3000, steps, setPointW, boostFromH: 3 * Math.sign(boostToH), boostToH },
        orders: [order],
        sharedCt,
        seed,
        ...(sight ? { sight } : {}),
      }),
    );

  it("adds up at every step, and battery and tank over the run", () => {
    fc.assert(
      fc.property(anyDiversion, (of) => {
        const { sunW, houseW } = seriesOf(of);
        const keep = emptySeries(sunW.length);
        const totals = simulateDiversion(of, sunW, houseW, of.orders[0]!, keep);
        for (let step = 0; step < sunW.length; step++)
          expect(
            Math.abs(
              sunW[step]! +
                keep.gridW[step]! -
                houseW[step]! -
                keep.batteryW[step]! -
                keep.heaterW[step]! -
                keep.vehicleW[step]!,
            ),
          ).toBeLessThan(1e-6);
        const soc = keep.socPct;
        expect(Math.min(...soc)).toBeGreaterThanOrEqual(10 - 1e-6);
        expect(Math.max(...soc)).toBeLessThanOrEqual(100 + 1e-6);
        const storedKwh = ((totals.endSocPct - 50) / 100) * of.battery!.capacityKwh;
        expect(totals.batteryInKwh - totals.batteryOutKwh - totals.batteryLossKwh).toBeCloseTo(storedKwh, 6);
        const heldKwh = ((totals.endTankC - totals.startTankC) * of.heater!.litres * 1.163) / 1000;
        expect(totals.heaterKwh - totals.tankLossKwh - totals.tankDrawnKwh).toBeCloseTo(heldKwh, 6);
        expect(totals.batteryLossKwh).toBeGreaterThanOrEqual(-1e-9);
        for (const key of ["sunKwh", "exportKwh", "importKwh", "heaterKwh"] as const)
          expect(totals.byMonth.reduce((sum, own) => sum + own[key], 0)).toBeCloseTo(totals[key], 6);
        expect(totals.sunKwh + totals.importKwh).toBeCloseTo(
          totals.houseKwh +
            totals.exportKwh +
            totals.heaterKwh +
            totals.vehicleKwh +
            totals.batteryInKwh -
            totals.batteryOutKwh,
          6,
        );
      }),
      { numRuns: 40 },
    );
  });

  it("is the same as the plain one", () => {
    fc.assert(
      fc.property(anyDiversion, (of) => {
        const { sunW, houseW } = seriesOf(of);
        const [fast, plain] = [
          simulateDiversion(of, sunW, houseW, of.orders[0]!),
          plainDiversion(of, [...sunW], [...houseW], of.orders[0]!),
        ];
        for (const key of [
          "importKwh",
          "exportKwh",
          "heaterKwh",
          "vehicleKwh",
          "batteryInKwh",
          "endTankC",
          "endSocPct",
          "money",
        ] as const)
          expect(Math.abs(fast[key] - plain[key])).toBeLessThan(1e-6 * Math.max(1, Math.abs(plain[key])));
      }),
      { numRuns: 20 },
    );
  });

  it("does not change by more than 1 % of the sun when the step is halved", () => {
    const totals = (stepMin: number) =>
      diversion(request({ stepMin, cloudiness: 0, orders: [["battery", "heater"]] })).totals[0]!;
    const [whole, half] = [totals(2), totals(1)];
    for (const key of ["exportKwh", "importKwh", "heaterKwh", "batteryInKwh"] as const)
      expect(Math.abs(whole[key] - half[key])).toBeLessThan(0.01 * whole.sunKwh);
  });

  it("gives first to whom it is given first", () => {
    const { totals } = diversion(
      request({
        orders: [
          ["heater", "battery"],
          ["battery", "heater"],
        ],
      }),
    );
    expect(totals[0]!.heaterKwh).toBeGreaterThan(totals[1]!.heaterKwh);
    expect(totals[1]!.batteryInKwh).toBeGreaterThanOrEqual(totals[0]!.batteryInKwh);
    expect(surplusOrders(["battery", "heater", "vehicle"])).toHaveLength(6);
  });

  it("books each day to its month, over the turn of the year too", () => {
    const { byMonth } = diversion(request({ days: 62, firstDay: 350, cloudiness: 0, orders: [["battery"]] }))
      .totals[0]!;
    expect(byMonth.map(({ sunKwh }) => sunKwh > 0)).toEqual([
      true,
      true,
      false,
      false,
      false,
      false,
      false,
      false,
      false,
      false,
      false,
      true,
    ]);
    expect(byMonth[0]!.sunKwh).toBeGreaterThan(byMonth[11]!.sunKwh);
  });

  it("lets the battery feed the heater on one grid CT only where the heater is content with more import", () => {
    const of = (sharedCt: boolean, setPointW: number) =>
      diversion(request({ sharedCt, heater: { ratedW: 3000, setPointW }, orders: [["battery", "heater"]] })).totals[0]!
        .heaterFromBatteryKwh;
    expect(of(true, 100)).toBeGreaterThan(0.5);
    expect(of(true, -100)).toBe(0);
    expect(of(false, 100)).toBe(0);
  });

  it(
    "lets a controller act on what it sees: the sun twice charges from the grid, itself twice only half, " +
      "itself not at all to its end",
    () => {
      const day = (sight?: object) =>
        diversion(
          request({
            days: 1,
            cloudiness: 0,
            vehicle: undefined,
            heater: undefined,
            battery: { capacityKwh: 500, powerW: 10_000 },
            orders: [["battery"]],
            series: true,
            ...(sight ? { sight: { battery: sight } } : {}),
          }),
        );
      const [right, sun, own, blind, all] = [
        day(),
        day({ sun: 2 }),
        day({ battery: 2 }),
        day({ battery: 0 }),
        day({}),
      ].map(({ totals, series }) => ({ ...totals[0]!, ...series! }));
      expect(sun!.batteryInKwh).toBeGreaterThan(right!.batteryInKwh);
      const noon = right!.hour.findIndex((hour) => hour >= 12);
      expect(own!.batteryW[noon]).toBeCloseTo(right!.batteryW[noon]! / 2, -1);
      expect(blind!.batteryW[noon]).toBe(10_000);
      expect(all).toEqual({ ...right });
      const dawn = sun!.sunW.findIndex((watts, at) => watts > sun!.houseW[at]! / 2 && watts < sun!.houseW[at]!);
      expect(sun!.gridW[dawn]).toBeGreaterThan(right!.gridW[dawn]!);
      expect(Math.abs(sun!.seenW[dawn]!)).toBeLessThan(1);
      const most = Math.max(...sun!.batteryW.map(Math.abs));
      expect(most).toBeLessThanOrEqual(10_000.1);
    },
  );

  it("charges a vehicle with at least 6 A, counts hot litres and weeks at 60 °C, and shows its progress", () => {
    const one = { days: 1, stepMin: 5, series: true, orders: [["vehicle"]] };
    const powers = diversion(request(one)).series!.vehicleW.filter((watts) => watts > 0);
    expect(Math.max(0, ...powers)).toBeLessThanOrEqual(16 * 230 + 1);
    const hot = diversion(request({ days: 14, heater: { ratedW: 3000, boostFromH: 0, boostToH: 6, boostToC: 65 } }))
      .totals[0]!;
    expect(hot).toMatchObject({ weeks: 2, weeksAt60: 2 });
    expect(hot.hotLitres).toBeGreaterThan(1000);
    const shares = [...diversionInSlices(request())];
    expect(shares).toEqual(shares.toSorted((a, b) => a - b));
    expect([...new Set(shares)]).toEqual([0, 1, 2, 3, 4, 5, 6].map((order) => order / 6));
  });

  it.each([
    [{ days: 0 }, "days"],
    [{ days: 8, series: true }, "series"],
    [{ sunW: [1, 2] }, "sunW"],
    [{ vehicle: { minA: 5 } }, "vehicle.minA"],
    [{ orders: [["heater", "heater"]] }, "orders.0"],
    [{ days: 366, stepMin: 0.1 }, "stepMin"],
  ])("refuses %j", (change, path) => {
    expect(
      diversionRequestSchema
        .safeParse({ days: 7, stepMin: 5, ...change })
        .error?.issues.map((issue) => issue.path.join(".")),
    ).toContain(path);
  });

  it("takes its actors from the plan, and what was typed over it", () => {
    const of = diversionOfPlan(resolve(cottage), { days: 1, stepMin: 1, series: true });
    expect(of.orders).toHaveLength(6);
    expect(of).toMatchObject({ heater: { ratedW: 3000 }, battery: { powerW: 3000 }, vehicle: { phases: 1, maxA: 32 } });
    const meant = {
      ...cottage,
      divert: divertSettingsSchema.parse({ order: ["heater", "vehicle", "battery"], heater: { ratedW: 2000 } }),
    };
    expect(diversionOfPlan(resolve(meant), { days: 1, stepMin: 1, series: false })).toMatchObject({
      orders: [["heater", "vehicle", "battery"], {}, {}, {}, {}, {}],
      heater: { ratedW: 2000 },
    });
  });

  it("is swept over orders and battery sizes", () => {
    const year = diversionOfPlan(resolve(cottage), { days: 365, stepMin: 1, series: false });
    const variants = sizeVariants(year);
    expect(variants).toHaveLength(24);
    expect(new Set(variants.map(({ name }) => name))).toEqual(new Set(["3 kWh", "6 kWh", "9 kWh", "12 kWh"]));
    const { battery: _none, ...without } = year;
    expect(sizeVariants(without)).toHaveLength(6);
  });

  it("reads a column of values as a day, or says which row is none", () => {
    expect(
      seriesOfValues([["h", "W"], ...Array.from({ length: 24 }, (_, at) => [String(at), String(100 * at)])], 1440),
    ).toMatchObject({ kind: "series" });
    expect(
      seriesOfValues(
        Array.from({ length: 24 }, (_, at) => [at === 3 ? "x" : "1"]),
        1440,
      ),
    ).toEqual({ kind: "bad", message: "row 4 is no power in W from 0 up" });
    expect(seriesOfValues([["1"], ["2"]], 1440)).toMatchObject({ kind: "bad" });
    const hours = (text: string) => Array.from({ length: 24 }, () => [text]);
    expect(seriesOfValues([...hours("1,240"), ["0,5"]], 1440)).toMatchObject({
      values: expect.arrayContaining([1.24]),
    });
    expect(seriesOfValues([...hours("1,240"), ["0.5"]], 1440)).toMatchObject({
      values: expect.arrayContaining([1240]),
    });
    expect(seriesOfValues(hours("1,240"), 1440)).toMatchObject({
      kind: "bad",
      message: expect.stringContaining("two ways"),
    });
  });
});

describe("a wrong sight", () => {
  it("is told per actor with its cure, by the CTs as they are fitted", () => {
    const twice = {
      ...cottage.site,
      cts: cottage.site.cts.map((ct) =>
        ct.plug?.meter === "hub" && ct.plug.input === 1
          ? { ...ct, around: [...ct.around, { run: "solar", conductor: "L1" as const }] }
          : ct,
      ),
    };
    expect(wrongSights(whoSeesWhat(resolve({ ...cottage, site: twice }), "fitted"))).toMatchObject([
      { actor: "heater", sight: { ...RIGHT_SIGHT, sun: 2 } },
      { actor: "vehicle", sight: { ...RIGHT_SIGHT, sun: 2 } },
    ]);
    expect(wrongSights(whoSeesWhat(resolve(cottage), "planned"))).toEqual([]);
    expect(sightMistakes({ sun: 2, house: 0, battery: -1, heater: 0.5, vehicle: 3 }).map(({ words }) => words)).toEqual(
      [
        "counts the sun twice",
        "does not see the house",
        "sees the battery the wrong way",
        "sees the heater in part (0.50)",
        "counts the vehicle 3.00 times",
      ],
    );
    expect(sightMistakes(RIGHT_SIGHT)).toEqual([]);
  });
});

describe("who sees what", () => {
  const words = (job: JobDocument, as: "planned" | "fitted") =>
    new Map(
      whoSeesWhat(resolve(job), as).map(({ controller, device, words: own }) => [`${controller.id} ${device.id}`, own]),
    );

  it("gives each device its sign in each controller's grid sum, from the plan and from the CTs as fitted", () => {
    const planned = words(cottage, "planned");
    expect([planned.get("charger solar"), planned.get("charger battery"), planned.get("charger house")]).toEqual([
      "seen",
      "seen",
      "seen",
    ]);
    const turned = {
      ...cottage,
      site: {
        ...cottage.site,
        cts: cottage.site.cts.map((ct) =>
          ct.plug?.meter === "hub" && ct.plug.input === 1
            ? { ...ct, arrow: ct.arrow === "to-load" ? ("to-grid" as const) : ("to-load" as const) }
            : ct,
        ),
      },
    };
    expect(words(turned, "fitted").get("charger house")).toBe("seen the wrong way");
    expect(controlFindings(resolve(turned)).map(({ code }) => code)).toContain("wrong-way");
  });

  it("names those whose own CT is in no meter of the plan", () => {
    expect(
      blindControllers(cottage, whoSeesWhat(resolve(cottage), "fitted"))
        .map(({ id }) => id)
        .sort(),
    ).toEqual(["battery"]);
  });

  it("finds a device that is counted twice", () => {
    const twice = {
      ...cottage,
      site: {
        ...cottage.site,
        cts: cottage.site.cts.map((ct) =>
          ct.plug?.meter === "hub" && ct.plug.input === 1
            ? { ...ct, around: [...ct.around, { run: "solar", conductor: "L1" as const }] }
            : ct,
        ),
      },
    };
    expect(words(twice, "fitted").get("charger solar")).toBe("counted twice");
    expect(controlFindings(resolve(twice)).map(({ code }) => code)).toContain("double-count");
  });
});

describe("two controllers on one CT", () => {
  const battery: Integrator = {
    name: "battery",
    setPointW: 0,
    gainPerS: 0.4,
    periodS: 1,
    delayS: 0.8,
    leastW: -3000,
    mostW: 3000,
  };
  const heater: Integrator = { ...battery, name: "heater", setPointW: 50, leastW: 0 };

  it("hunt when both are fast, and feed each other when the heater is content with more", () => {
    expect(simulateHunt({ ...battery, gainPerS: 1.2 }, { ...heater, gainPerS: 1.2 }, [0, 1500]).isHunting).toBe(true);
    expect(simulateHunt(battery, { ...heater, gainPerS: 0.1 }, [200, 200]).exchangedW).toBeGreaterThan(100);
  });

  it("are kept apart by the settings that are named", () => {
    const apart = settingsApart(battery, heater, 1500)!;
    expect(apart.setPointW).toBeLessThanOrEqual(0);
    const run = simulateHunt(battery, { ...heater, ...apart }, [0, 1500]);
    expect(run.isHunting).toBe(false);
    expect(run.exchangedW).toBeLessThan(100);
    expect(settingsApart({ ...battery, gainPerS: 5 }, heater, 1500)).toBeUndefined();
  });
});

describe("heater, backup and hub", () => {
  const codes = (findings: readonly { readonly code: string }[]) => findings.map(({ code }) => code);

  it("holds the element against diverter, cable and breaker, and the water against hygiene", () => {
    const large = changeNode("heater", { ratedW: 4600 })(cottage);
    expect(codes(heaterChecks(resolve(large)))).toEqual([
      "element-over-rating",
      "element-cable",
      "element-fuse",
      "thermostat-stays",
    ]);
    expect(codes(heaterChecks(resolve(cottage), { weeksAt60: 1, weeks: 4 }))).toEqual(["thermostat-stays", "hygiene"]);
  });

  it("holds what is behind a backup output against it", () => {
    const backed = jobFromPattern("hybrid-high-voltage");
    expect(codes(backupChecks(resolve(backed)))).toEqual(["island-readings", "neutral-earth"]);
    expect(backupChecks(resolve(backed)).map(plainFinding)[0]!.detail).toContain("every input 0 W");
    const load = backed.site.nodes.find(({ id }) => id === "backed")!;
    const [own] = backed.site.meters;
    const counted = {
      ...backed.site,
      meters: [
        own!,
        {
          ...own!,
          id: "behind",
          name: "Backup meter",
          inputs: [
            {
              ...own!.inputs[0]!,
              measures: [{ run: "backed", conductor: "L1" as const }],
              positive: "to-load" as const,
            },
          ],
        },
      ],
    };
    expect(
      plainText(
        islandReadings(
          counted,
          counted.nodes.find(({ id }) => id === "hybrid")!,
          [load],
        ),
      ),
    ).toBe("Backup meter input 1 60 W, every other input 0 W");
    const heavy = changeNode("backed", { ratedW: 9000 })(backed);
    expect(codes(backupChecks(resolve(heavy)))).toContain("backup-over");
  });

  it("names the hub, what follows it, and its window against the longest way", () => {
    expect(hubChecks(resolve(cottage)).map(plainFinding)).toMatchObject([
      {
        code: "hub",
        detail: expect.stringContaining("its window is 90 s, the longest way 2 min") as string,
        cure: "Pair beside the hub, then hang it",
      },
    ]);
    expect(hubChecks(resolve(farm))).toEqual([]);
  });
});

function seriesOf({ place, fields, firstDay, days, stepMin, cloudiness, seed, house }: DiversionRequest) {
  return {
    sunW: sunSeries(place, fields, firstDay, days, stepMin, cloudiness, seed),
    houseW: houseSeries(house.archetype, house.kwhYear, days, stepMin, seed + 7),
  };
}

function emptySeries(count: number): DiversionSeries {
  const array = () => new Float64Array(count);
  return {
    batteryW: array(),
    heaterW: array(),
    vehicleW: array(),
    gridW: array(),
    seenW: array(),
    socPct: array(),
    tankC: array(),
  };
}
