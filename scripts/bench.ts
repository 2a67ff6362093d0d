import { diversion, diversionInSlices, surplusOrders } from "@/core/simulation/diversion";
import { diversionRequestSchema } from "@/core/simulation/diversionSchema";
import { exportLimitInSlices } from "@/core/simulation/exportLimit";
import { exportLimitRequestSchema } from "@/core/simulation/exportLimitSchema";
import { houseSeries } from "@/core/simulation/house";
import { simulateDiversion } from "@/core/simulation/diversion/simulateDiversion";
import { simulateExport } from "@/core/simulation/feedIn/simulateExport";
import { sunSeries } from "@/core/simulation/sun";
import { diagnose, diagnoseInSlices } from "@/core/flows/diagnose";
import { diagnoseLog } from "@/core/flows/log/diagnoseLog";
import { expectedLog } from "@/core/flows/log/expectedLog";
import { diagnoseLogRequestSchema } from "@/core/flows/log/logSchema";
import { proofPlan, proofPlanRequestSchema } from "@/core/flows/proof/proofPlan";
import { simulateSeen } from "@/core/flows/simulateSeen";
import { createHash } from "node:crypto";
import { CHAIN_BEGIN, checkChain, linkText } from "@/core/handover/logChain";
import { findBreak } from "@/core/online/findBreak";
import { onlineRequestSchema } from "@/core/online/onlineSchema";
import { judgeCanLog } from "@/core/links/bus/candump";
import { schedule, scheduleInSlices } from "@/core/visit/schedule/schedule";
import { scheduleRequestSchema } from "@/core/visit/schedule/scheduleSchema";
import { seededNormal } from "@/core/random";
import type { Slices } from "@/core/slices";
import type { TestSheet } from "@/core/flows/testSheetSchema";
import type { Site } from "@/core/site/planSchema";
import { bundleInMemory } from "./bench/bundleInMemory";
import { inTheHand } from "./bench/inTheHand";
import { pollCycles } from "./bench/pollCycle";
import { houseSite, usualSheet } from "../tests/fixtures/sites";

const RUNS = 9;

/** Prints counts, median times and ratios to a single-meter diagnosis of the same run; asserts nothing. */
async function main(): Promise<void> {
  const oneMeter = faulty(houseSite("three-phase"));
  const twoMeters = faulty(houseSite("three-phase", { solarMeter: true }));
  const base = report("3 inputs, 5 steps, up to 2 faults", oneMeter, 2, undefined);
  report("6 inputs, 6 steps, up to 2 faults", sixSteps(twoMeters), 2, base);
  report("6 inputs, 6 steps, up to 3 faults", sixSteps(twoMeters), 3, base, 1);
  slices(sixSteps(twoMeters));
  control(base);
  proof(base, oneMeter.site);
  line(base);
  online(base);
  logChain(base);
  await pollCycles();
  await bundleInMemory();
  await inTheHand();
}

/** Where a chain breaks: every cause and pair weighed, the next checks by their bits. */
function online(base: number): void {
  const request = onlineRequestSchema.parse({
    way: "wifi",
    lamps: [{ id: "orange-twice", rung: "joined", state: "bad" }],
    changed: "router",
    observed: [
      { check: "lamp", outcome: "orange-twice" },
      { check: "phone-sees-network", outcome: "yes" },
      { check: "phone-joins", outcome: "yes" },
      { check: "address", outcome: "169.254.7.20" },
    ],
  });
  timed("online, four things seen", base, () => findBreak(request));
}

/** The chain of a log of 5000 lines, checked from the first to the last. */
function logChain(base: number): void {
  const sha256 = (text: string) => createHash("sha256").update(text).digest("hex");
  let head = CHAIN_BEGIN;
  const lines = Array.from({ length: 5_000 }, (_, at) => {
    const text = JSON.stringify({ at, kind: "note", text: "as it was found ".repeat(8) });
    head = sha256(linkText(head, text));
    return { text, hash: head };
  });
  timed("log of 5000 lines checked", base, () => checkChain(lines, sha256));
}

interface Case {
  readonly site: Site;
  readonly sheet: TestSheet;
}

function faulty(site: Site): Case {
  const fitted: Site = { ...site, cts: site.cts.map((ct, at) => (at === 1 ? { ...ct, leads: "swapped" } : ct)) };
  const sheet = usualSheet(site);
  return { site: fitted, sheet: { ...sheet, steps: simulateSeen(fitted, sheet, seededNormal(7)) } };
}

function sixSteps({ site, sheet }: Case): Case {
  return { site, sheet: { ...sheet, steps: [...sheet.steps, sheet.steps[0]!] } };
}

function report(name: string, { site, sheet }: Case, maxFaults: number, base: number | undefined, runs = RUNS): number {
  const times: number[] = [];
  let scored = 0;
  for (let run = 0; run < runs; run++) {
    const started = performance.now();
    const outcome = diagnose(site, { ...sheet, maxFaults });
    times.push(performance.now() - started);
    if (outcome.kind === "diagnosed") scored = outcome.diagnosis.scored;
  }
  const median = times.sort((a, b) => a - b)[Math.floor(times.length / 2)]!;
  const ratio = base ? `, ${(median / base).toFixed(1)} × the first` : "";
  console.log(`${name}: ${scored} combinations, median ${median.toFixed(1)} ms of ${runs}${ratio}`);
  return median;
}

/** The longest that the largest requests keep their thread between two chances to stop. */
function slices({ site, sheet }: Case): void {
  const year = diversionRequestSchema.parse({
    days: 365,
    stepMin: 1,
    fields: Array.from({ length: 12 }, () => ({ kwp: 5 })),
    battery: { capacityKwh: 5, powerW: 3000 },
    heater: { ratedW: 3000 },
    vehicle: {},
    orders: surplusOrders(["battery", "heater", "vehicle"]),
  });
  const seconds = { ...year, days: 6, stepMin: 1 / 60 };
  const inverter = { ratedW: 10_000, availableW: 9500, phases: ["L1", "L2", "L3"] };
  const limit = (count: number, stepMs: number, durationS: number) =>
    exportLimitRequestSchema.parse({
      system: "three-phase",
      limit: { powerW: 20_000, basis: "per-phase" },
      stepMs,
      durationS,
      inverters: Array.from({ length: count }, (_, at) => ({ ...inverter, id: `inverter-${at}` })),
      meter: { samplePeriodMs: 200, delayMs: 350 },
      controller: { kind: "integral", gainPerS: 0.5, setPointW: 19_800, deadBandW: 50, periodMs: 500 },
    });
  const bench = (technicians: number, steps: number) =>
    scheduleRequestSchema.parse({
      technicians,
      places: [{ id: "a" }, { id: "b" }, { id: "c" }],
      walkMin: { "a|b": 3, "b|c": 2 },
      steps: Array.from({ length: steps }, (_, at) => ({
        id: `s${at}`,
        place: ["a", "b", "c"][at % 3],
        activeMin: 2 + (at % 7),
        waitMin: at % 5 === 0 ? 20 : 0,
        needs: at > 8 ? [`s${at - 8}`] : [],
      })),
    });
  const works: Readonly<Record<string, () => Slices<unknown>>> = {
    "diagnosis, three faults": () => diagnoseInSlices(site, { ...sheet, maxFaults: 3 }),
    "export limit, 64 inverters": () => exportLimitInSlices(limit(64, 50, 600)),
    "export limit, 400 000 steps": () => exportLimitInSlices(limit(1, 1, 400)),
    "a year in six orders, 12 fields": () => diversionInSlices(year),
    "six days by the second": () => diversionInSlices(seconds),
    "schedule of 12 steps, two technicians": () => scheduleInSlices(bench(2, 12)),
    "schedule of 300 steps": () => scheduleInSlices(bench(2, 300)),
  };
  for (const [name, work] of Object.entries(works)) {
    const longest = Array.from({ length: 3 }, () => longestSliceMs(work()));
    const count = longest[0]!.count;
    const ms = Math.min(...longest.map(({ ms: own }) => own));
    console.log(`${name}: ${count} slices, longest ${ms.toFixed(0)} ms (least of three runs)`);
  }
}

function longestSliceMs(work: Slices<unknown>): { readonly count: number; readonly ms: number } {
  let [ms, count] = [0, 0];
  for (;;) {
    const started = performance.now();
    const { done } = work.next();
    ms = Math.max(ms, performance.now() - started);
    count++;
    if (done) return { count, ms };
  }
}

/**
 * Ten minutes of six inverters at 20 ms, a year at one minute, a sheet of 60 steps: medians and ratios to the first
 * diagnosis.
 */
function control(base: number): void {
  const six = exportLimitRequestSchema.parse({
    system: "three-phase",
    limit: { powerW: 20_000 },
    durationS: 600,
    inverters: [1, 2, 3, 4, 5, 6].map((at) => ({
      id: `inverter-${at}`,
      ratedW: 10_000,
      availableW: 9500,
      phases: ["L1", "L2", "L3"],
    })),
    meter: { samplePeriodMs: 200, delayMs: 350 },
    controller: { kind: "integral", gainPerS: 0.5, setPointW: 19_800, deadBandW: 50, periodMs: 500 },
  });
  const year = diversionRequestSchema.parse({
    days: 365,
    stepMin: 1,
    fields: [{ kwp: 5 }],
    battery: { capacityKwh: 5, powerW: 3000 },
    heater: { ratedW: 3000 },
    vehicle: {},
  });
  const sunW = sunSeries(year.place, year.fields, 1, 365, 1, year.cloudiness, 1);
  const houseW = houseSeries("family", 4000, 365, 1, 2);
  const sheet = scheduleRequestSchema.parse({
    technicians: 1,
    places: [{ id: "a" }, { id: "b" }, { id: "c" }],
    walkMin: { "a|b": 3, "b|c": 2 },
    steps: Array.from({ length: 60 }, (_, at) => ({
      id: `s${at}`,
      place: ["a", "b", "c"][at % 3],
      activeMin: 2 + (at % 7),
      waitMin: at % 5 === 0 ? 20 : 0,
      needs: at > 4 ? [`s${at - 4}`] : [],
    })),
  });
  timed("export limit, 10 min at 20 ms, 6 inverters", base, () => simulateExport(six));
  timed("diversion, a year at 1 min, 525 600 steps", base, () =>
    simulateDiversion(year, sunW, houseW, ["battery", "heater", "vehicle"]),
  );
  timed("the same with its sun and house made", base, () => diversion(year));
  timed("schedule of 60 steps", base, () => schedule(sheet));
}

/** A proof planned, a day's log of 1440 rows weighed and drawn: what is computed before and after a visit. */
function proof(base: number, site: Site): void {
  const { site: own, ...assumed } = proofPlanRequestSchema.parse({ site });
  timed("proof planned, three inputs", base, () => proofPlan(own, assumed));
  const normal = seededNormal(5);
  const times = Array.from({ length: 1440 }, (_, row) => 60 * row);
  const sunW = times.map(
    (time) => -5000 * Math.max(0, Math.sin(Math.PI * (time / 43_200 - 0.5))) * (0.8 + 0.1 * normal()),
  );
  const readings = site.meters.flatMap(({ id, inputs }) =>
    inputs.map(({ n }) => ({ meter: id, input: n, powerW: sunW.map((watts) => watts / 3 + 400 + 60 * normal()) })),
  );
  const { site: logged, ...log } = diagnoseLogRequestSchema.parse({
    site,
    times,
    readings,
    known: [{ node: "pv", powerW: sunW }],
  });
  timed("log of 1440 rows, three inputs", base, () => diagnoseLog(logged, log));
  timed("its bands", base, () => expectedLog(logged, log, []));
}

/** A listing of 200 000 CAN frames, read and judged. */
function line(base: number): void {
  const listing = Array.from(
    { length: 200_000 },
    (_, at) => `(${(1_700_000_000 + at / 1000).toFixed(6)}) can0 ${(0x300 + (at % 40)).toString(16)}#0102030405060708`,
  ).join("\n");
  timed("candump of 200 000 lines", base, () => judgeCanLog(listing, 500_000, []));
}

function timed(name: string, base: number, work: () => unknown): void {
  const times = Array.from({ length: RUNS }, () => {
    const started = performance.now();
    work();
    return performance.now() - started;
  });
  const median = times.toSorted((a, b) => a - b)[Math.floor(RUNS / 2)]!;
  console.log(`${name}: median ${median.toFixed(1)} ms of ${RUNS}, ${(median / base).toFixed(1)} × the first`);
}

await main();
