import { said, together } from "@/core/sentence";
import type { Finding } from "@/core/findings";
import { given } from "@/core/given";
import { betweenSteps } from "@/core/simulation/feedIn/betweenSteps";
import { simulateExportInSlices, type ExportTraces } from "@/core/simulation/feedIn/simulateExport";
import type { ExportLimitRequest, ExportLimitResult } from "@/core/simulation/exportLimitSchema";
import { judgeExport, OVER_TOLERANCE_W, traceOf, type ExportJudgement } from "@/core/simulation/judgeExport";
import { largestGain, largestGainSteps } from "@/core/simulation/largestGain";
import { limitFinding } from "@/core/simulation/limitFinding";
import { inOneGo, type Slices } from "@/core/slices";
import { threeDigits } from "@/core/units";

const MOST_POINTS = 1200;
/** Within this of its fallback an inverter counts as there. */
const FALLBACK_SHARE = 0.02;
/** Measured on one usual core; meter, loads and controller take as long as so many inverters. */
const INVERTER_STEPS_A_MS = 12_000;
const FIXED_SHARE = 4;
const SOURCE = "Simulation of meter, bus, controller and inverters in time; the rule is the network operator's";

/**
 * An export limit answered: largest export, how long above, where it settles, whether it hunts, how long until the
 * fallback, what delays it, how much gain it bears, and the set-point that keeps the true export within the limit.
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
  const budget = delayBudget(request);
  const maxStableGainPerS = yield* largestGain(request, budget.total);
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
 * About how long an answer takes, ms on one usual core: every step of every inverter, what falls between steps, and the
 * trials that the largest gain is looked for with.
 */
export function exportLimitCostMs(request: ExportLimitRequest): number {
  const steps =
    (request.durationS * 1000) / request.stepMs +
    betweenSteps(request).length +
    largestGainSteps(request, delayBudget(request).total);
  return (steps * (request.inverters.length + FIXED_SHARE)) / INVERTER_STEPS_A_MS;
}

/** When the last load, sun or loss of a request happens, s. */
function lastHappeningS({ loads, events }: Pick<ExportLimitRequest, "loads" | "events">): number {
  return Math.max(0, ...loads.map(({ atS }) => atS), ...events.map(({ atS }) => atS));
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
 * that it is the worst.
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
