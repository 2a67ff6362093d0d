import { said, together } from "@/core/sentence";
import type { Finding } from "@/core/findings";
import { given } from "@/core/given";
import { simulateExportInSlices, type ExportTraces } from "@/core/simulation/feedIn/simulateExport";
import type { ExportLimitRequest, ExportLimitResult } from "@/core/simulation/exportLimitSchema";
import { limitFinding } from "@/core/simulation/limitFinding";
import { inOneGo, type Slices } from "@/core/slices";
import { threeDigits } from "@/core/units";

const MOST_POINTS = 1200;
/** The end of a trace, over which it is called settled: this part of what comes after the last happening. */
const SETTLED_SHARE = 0.6;
/** A swing of this part of the limit, and at least so many W, is hunting. */
const HUNT_SHARE = 0.04;
const HUNT_LEAST_W = 60;
const HUNT_TURNS = 4;
/** Within this of its fallback an inverter counts as there. */
const FALLBACK_SHARE = 0.02;
const GAIN_STEPS = 14;
/** Long enough for slow loops to show their swing: so many times the whole delay, and at least so long. */
const GAIN_TRIAL_DELAYS = 45;
const GAIN_TRIAL_LEAST_S = 60;
const MOST_GAIN_PER_S = 20;
/** More steps show a swing no better. */
const MOST_GAIN_TRIAL_STEPS = 8_000;
/** Measured on one usual core; meter, loads and controller take as long as so many inverters. */
const INVERTER_STEPS_A_MS = 12_000;
const FIXED_SHARE = 4;
const OVER_TOLERANCE_W = 1;
const SOURCE = "Simulation of meter, bus, controller and inverters in time; the rule is the network operator's";

/** Recorded or simulated export over time, judged by the same code. */
export interface ExportTrace {
  readonly tS: ArrayLike<number>;
  /** On which the limit is: the sum, or the worst phase; positive when exporting. */
  readonly exportW: ArrayLike<number>;
}

/** How an export stands to its limit, W and s. */
export interface ExportJudgement {
  readonly maxExportW: number;
  readonly secondsOver: number;
  readonly longestOverS: number;
  readonly settledExportW: number;
  readonly oscillates: boolean;
  readonly verdict: ExportLimitResult["verdict"];
}

/**
 * An export limit answered: largest export, how long above, where it settles, whether it hunts, how long until the
 * fallback,
 * what delays it, how much gain it bears, and the set-point that keeps the true export within the limit.
 *
 * For example: A limit of 5000 W with a set-point of 4900 and a meter that is 1.5 % off: recommendedSetPointW 4875.
 */
export function exportLimit(request: ExportLimitRequest): ExportLimitResult {
  return inOneGo(exportLimitInSlices(request));
}

/** `exportLimit` in slices, so that a thread hears in between whether anybody still waits. */
export function* exportLimitInSlices(request: ExportLimitRequest): Slices<ExportLimitResult> {
  const traces = yield* simulateExportInSlices(request);
  yield;
  const trace = traceOf(traces, request.limit.basis);
  yield;
  const judged = judgeExport(trace, request.limit, request.controller.deadBandW, lastHappeningS(request));
  yield;
  const fallbackS = fallbackOf(request, traces);
  const recommendedSetPointW = safeSetPointW(
    request.limit.powerW,
    request.meter.errorPct,
    request.controller.deadBandW,
  );
  const maxStableGainPerS = yield* maxStableGain(request);
  const budget = delayBudget(request);
  yield;
  return {
    ...judged,
    worstPhase: worstPhase(traces),
    fallbackS,
    delayBudgetMs: budget,
    maxStableGainPerS,
    recommendedSetPointW,
    findings: [...limitFindings(request, judged, fallbackS, maxStableGainPerS, recommendedSetPointW, budget)],
    series: seriesOf(
      traces,
      request.inverters.map(({ id }) => id),
    ),
  };
}

/**
 * About how long an answer takes, ms on one usual core: every step of every inverter, of the trace and of those that
 * the largest gain is looked for with.
 */
export function exportLimitCostMs(request: ExportLimitRequest): number {
  const gain = gainTrial(request);
  const steps = (request.durationS * 1000) / request.stepMs + (GAIN_STEPS + 1) * ((gain.trialS * 1000) / gain.stepMs);
  return (steps * (request.inverters.length + FIXED_SHARE)) / INVERTER_STEPS_A_MS;
}

/** The export that a limit is on, at every step. */
export function traceOf({ gridW, phaseW, stepS, steps }: ExportTraces, basis: "sum" | "per-phase"): ExportTrace {
  const [tS, exportW] = [new Float64Array(steps), new Float64Array(steps)];
  for (let step = 0; step < steps; step++) {
    tS[step] = step * stepS;
    exportW[step] = -gridW[step]!;
  }
  if (basis === "per-phase") {
    exportW.fill(-Infinity);
    for (const watts of phaseW)
      for (let step = 0; step < steps; step++) exportW[step] = Math.max(exportW[step]!, -watts[step]!);
  }
  return { tS, exportW };
}

/**
 * A trace against the rule: above the limit for no longer than allowed, settled within it, not hunting.
 *
 * For example: 6200 W for 2 s, then 4900 W, under 5000 W with 5 s allowed: holds.
 *
 * @param quietFromS When the last thing happened; from then on it must come to rest.
 */
export function judgeExport(
  { tS, exportW }: ExportTrace,
  limit: { readonly powerW: number; readonly secondsAllowed: number },
  deadBandW: number,
  quietFromS = 0,
): ExportJudgement {
  const count = tS.length;
  const endS = count > 0 ? tS[count - 1]! : 0;
  let maxExportW = -Infinity,
    secondsOver = 0,
    overS = 0,
    longestOverS = 0;
  for (let at = 0; at < count; at++) {
    const dt = at + 1 < count ? tS[at + 1]! - tS[at]! : at > 0 ? tS[at]! - tS[at - 1]! : 0;
    maxExportW = Math.max(maxExportW, exportW[at]!);
    const isOver = exportW[at]! > limit.powerW + OVER_TOLERANCE_W;
    overS = isOver ? overS + dt : 0;
    secondsOver += isOver ? dt : 0;
    longestOverS = Math.max(longestOverS, overS);
  }
  const tail = tailOf({ tS, exportW }, endS - (1 - SETTLED_SHARE) * (endS - Math.min(quietFromS, endS)));
  const settledExportW = sumOf(tail) / Math.max(1, tail.length);
  const oscillates = swings(tail, Math.max(HUNT_LEAST_W, HUNT_SHARE * limit.powerW, 2 * deadBandW));
  const settlesOver = settledExportW > limit.powerW + OVER_TOLERANCE_W;
  const verdict = oscillates
    ? "hunts"
    : settlesOver
      ? "too-high"
      : longestOverS > limit.secondsAllowed
        ? "too-long"
        : "holds";
  return { maxExportW: count === 0 ? 0 : maxExportW, secondsOver, longestOverS, settledExportW, oscillates, verdict };
}

/** The export from a time on, which a recording need not have in order. */
function tailOf({ tS, exportW }: ExportTrace, fromS: number): Float64Array {
  const tail = new Float64Array(tS.length);
  let length = 0;
  for (let at = 0; at < tS.length; at++) if (tS[at]! >= fromS) tail[length++] = exportW[at]!;
  return tail.subarray(0, length);
}

function sumOf(values: Float64Array): number {
  let sum = 0;
  for (let at = 0; at < values.length; at++) sum += values[at]!;
  return sum;
}

/** When the last load, sun or loss of a request happens, s. */
function lastHappeningS({ loads, events }: Pick<ExportLimitRequest, "loads" | "events">): number {
  return Math.max(0, ...loads.map(({ atS }) => atS), ...events.map(({ atS }) => atS));
}

/** Whether values swing up and down again by at least so much. */
function swings(values: Float64Array, leastW: number): boolean {
  let turns = 0,
    direction = 0,
    low = Infinity,
    high = -Infinity;
  for (let at = 0; at < values.length; at++) {
    const value = values[at]!;
    low = Math.min(low, value);
    high = Math.max(high, value);
    if (direction <= 0 && value - low >= leastW) {
      if (direction < 0) turns++;
      direction = 1;
      high = value;
      low = value;
    } else if (direction >= 0 && high - value >= leastW) {
      if (direction > 0) turns++;
      direction = -1;
      low = value;
      high = value;
    }
  }
  return turns >= HUNT_TURNS;
}

/** Time from the loss of the meter until every inverter is at its fallback, s. */
function fallbackOf(request: ExportLimitRequest, traces: ExportTraces): number | null {
  const lost = request.events.find(({ kind }) => kind === "meter-lost");
  if (!lost || request.inverters.every(({ lostMeter }) => !lostMeter)) return null;
  const back = request.events.find(({ kind, atS }) => kind === "meter-back" && atS > lost.atS)?.atS ?? Infinity;
  const wantedW = request.inverters.reduce(
    (sum, { lostMeter, availableW }) => sum + (lostMeter ? Math.min(lostMeter.fallbackW, availableW) : availableW),
    0,
  );
  const toleranceW = FALLBACK_SHARE * request.inverters.reduce((sum, { ratedW }) => sum + ratedW, 0);
  for (let step = Math.ceil(lost.atS / traces.stepS); step < traces.steps && step * traces.stepS < back; step++)
    if (traces.inverterW[step]! <= wantedW + toleranceW) return step * traces.stepS - lost.atS;
  return null;
}

/**
 * From a change at the grid until the inverters answer, part by part, ms: half of what is random is not taken off, so
 * that
 * it is the worst.
 */
export function delayBudget({
  meter,
  controller,
  inverters,
}: Pick<ExportLimitRequest, "meter" | "controller" | "inverters">): ExportLimitResult["delayBudgetMs"] {
  const parts = {
    sampling: meter.samplePeriodMs,
    transport: meter.delayMs,
    controller: controller.periodMs,
    deadTime: Math.max(...inverters.map(({ deadTimeMs }) => deadTimeMs)),
    lag: Math.max(...inverters.map(({ tauMs }) => tauMs)),
  };
  const [dominant] = Object.entries(parts).toSorted((a, b) => b[1] - a[1])[0]!;
  return { ...parts, total: Object.values(parts).reduce((sum, part) => sum + part, 0), dominant };
}

/**
 * The set-point whose true export stays within the limit, W. A meter that shows e too little reads limit · (1 − e) when
 * the export is at the limit; the controller rests anywhere within its dead band of what it holds. So both are taken
 * off: limit · (1 − e) − dead band.
 *
 * For example: 5000 W, 1.5 %, 50 W: 4875.
 */
export function safeSetPointW(limitW: number, errorPct: number, deadBandW: number): number {
  return Math.max(0, limitW * (1 - Math.abs(errorPct) / 100) - deadBandW);
}

/**
 * How the largest gain is looked for: a trace long enough to show a swing, in steps that are a small part of the delay.
 */
function gainTrial(request: ExportLimitRequest): { readonly trialS: number; readonly stepMs: number } {
  const delayMs = delayBudget(request).total;
  const trialS = Math.max(GAIN_TRIAL_LEAST_S, (GAIN_TRIAL_DELAYS * delayMs) / 1000);
  // A sluggish loop is looked at in coarser steps; the most sluggish ones in so many that the search stays short.
  return {
    trialS,
    stepMs: Math.max(request.stepMs, Math.min(50, delayMs / 40), (trialS * 1000) / MOST_GAIN_TRIAL_STEPS),
  };
}

/**
 * The largest gain for which a load drop does not make it hunt, 1/s, by halving between one that does not and one that
 * does.
 */
function* maxStableGain(request: ExportLimitRequest): Slices<number> {
  const phase = request.inverters[0]!.phases[0]!;
  const loadW = 0.4 * request.inverters.reduce((sum, { ratedW }) => sum + ratedW, 0);
  const { trialS, stepMs } = gainTrial(request);
  const base: ExportLimitRequest = {
    ...request,
    stepMs,
    durationS: trialS,
    events: [],
    loads: [
      { atS: 0, phase, powerW: loadW },
      { atS: trialS / 4, phase, powerW: 0 },
    ],
  };
  function* isStable(gainPerS: number): Slices<boolean> {
    const traces = yield* simulateExportInSlices({
      ...base,
      controller: { ...base.controller, kind: "integral", gainPerS },
    });
    yield;
    return !judgeExport(traceOf(traces, "sum"), base.limit, base.controller.deadBandW, trialS / 4).oscillates;
  }
  if (yield* isStable(MOST_GAIN_PER_S)) return MOST_GAIN_PER_S;
  let [stable, hunting] = [0, MOST_GAIN_PER_S];
  for (let step = 0; step < GAIN_STEPS; step++) {
    // In equal ratios: gains matter by how many times, not by how much.
    const middle = stable === 0 ? hunting / 4 : Math.sqrt(stable * hunting);
    if (yield* isStable(middle)) stable = middle;
    else hunting = middle;
  }
  return stable;
}

function worstPhase({ phases, phaseW }: ExportTraces): ExportLimitResult["worstPhase"] {
  const least = phaseW.map((watts) => {
    let low = Infinity;
    for (let step = 0; step < watts.length; step++) low = Math.min(low, watts[step]!);
    return low;
  });
  return phases[least.indexOf(Math.min(...least))]!;
}

function seriesOf(traces: ExportTraces, ids: readonly string[]): ExportLimitResult["series"] {
  const every = Math.max(1, Math.ceil(traces.steps / MOST_POINTS));
  const steps = Array.from({ length: Math.ceil(traces.steps / every) }, (_, at) => at * every);
  const of = (watts: Float64Array) => steps.map((step) => Math.round(watts[step]! * 100) / 100);
  return {
    tS: steps.map((step) => Math.round(step * traces.stepS * 1000) / 1000),
    gridW: of(traces.gridW),
    phaseW: Object.fromEntries(traces.phases.map((phase, at) => [phase, of(traces.phaseW[at]!)])),
    loadW: of(traces.loadW),
    inverterW: of(traces.inverterW),
    inverters: Object.fromEntries(ids.map((id, at) => [id, of(traces.eachW[at]!)])),
    seenW: of(traces.seenW),
    batteryW: of(traces.batteryW),
    diverterW: of(traces.diverterW),
  };
}

function limitFindings(
  { limit, controller }: ExportLimitRequest,
  judged: ExportJudgement,
  fallbackS: number | null,
  gain: number,
  setPointW: number,
  budget: ExportLimitResult["delayBudgetMs"],
): readonly Finding[] {
  const make = limitFinding(SOURCE);
  return given(
    judged.verdict === "hunts" &&
      make(
        "hunts",
        "fix",
        "The limit hunts",
        together(
          said`Gain ${threeDigits(controller.gainPerS)} a second with ${threeDigits(budget.total)} ms of `,
          said`delay; up to ${threeDigits(gain)} it does not.`,
        ),
        together(
          said`Take a gain below ${threeDigits(gain)}, or shorten the `,
          said`${budget.dominant === "deadTime" ? "dead time" : budget.dominant}`,
        ),
      ),
    judged.verdict === "too-high" &&
      make(
        "settles-high",
        "fix",
        "It settles above the limit",
        said`${threeDigits(judged.settledExportW)} W against ${threeDigits(limit.powerW)} W.`,
        said`Set the set-point to ${Math.floor(setPointW)} W`,
      ),
    judged.verdict === "too-long" &&
      make(
        "over-long",
        "fix",
        "Above the limit for too long",
        said`${threeDigits(judged.longestOverS)} s; ${threeDigits(limit.secondsAllowed)} s are allowed.`,
        "Raise the gain up to what does not hunt, or shorten the delay",
      ),
    judged.verdict === "holds" &&
      controller.setPointW > setPointW + OVER_TOLERANCE_W &&
      make(
        "margin",
        "note",
        "No room for meter and dead band",
        together(
          said`Set-point ${threeDigits(controller.setPointW)} W; ${threeDigits(setPointW)} W keeps the true `,
          "export within the limit.",
        ),
        said`Set it to ${Math.floor(setPointW)} W`,
      ),
    !(fallbackS === null) &&
      make(
        "fallback",
        "note",
        "After the meter is lost",
        said`${threeDigits(fallbackS)} s until every inverter is at its fallback.`,
        "Compare with the network operator's rule",
      ),
  );
}
