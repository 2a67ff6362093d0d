import { loopEdgeInSlices } from "@/core/simulation/feedIn/loopEdge";
import { phasesOfSystem } from "@/core/simulation/feedIn/phasesOfSystem";
import { simulateExportInSlices } from "@/core/simulation/feedIn/simulateExport";
import type { ExportLimitRequest } from "@/core/simulation/exportLimitSchema";
import { judgeExport, traceOf } from "@/core/simulation/judgeExport";
import type { Slices } from "@/core/slices";

const HALVINGS = 7;
/** Where the search begins below the edge, which is never reached. */
const FIRST_SHARE = 1 / 8;
/** Long enough for slow loops to show their swing: so many times the whole delay, and at least so long. */
const TRIAL_DELAYS = 45;
const TRIAL_LEAST_S = 60;
/** More steps show a swing no better. */
const MOST_TRIAL_STEPS = 8_000;
/** The inverters rest at this share of their rating, and fall to that one when the load goes off. */
const REST_SHARE = 0.5;
const AFTER_SHARE = 0.2;

/**
 * The largest gain at which a limit does not hunt by the judgement that every simulation gets, 1/s. Tried where nothing
 * is at an end: house load on, sun above the limit, the load of the phase that answers most going off, every reading as
 * old as it can be. Looked for below the edge of the linear loop, at which a swing never ends.
 *
 * For example: samples every 200 ms, 350 ms late, every 500 ms, dead time 200 ms, lag 400 ms: 1.3 of an edge of 1.7.
 */
export function* largestGain(request: ExportLimitRequest, delayMs: number): Slices<number> {
  const edge = yield* loopEdgeInSlices(request);
  const trial = trialOf(request, edge.phase ?? request.inverters[0]!.phases[0]!, delayMs);
  function* hunts(gainPerS: number): Slices<boolean> {
    const { controller, limit } = trial;
    const traces = yield* simulateExportInSlices({
      ...trial,
      controller: { ...controller, kind: "integral", gainPerS },
    });
    yield;
    return judgeExport(traceOf(traces, limit.basis), limit, controller.deadBandW, trial.durationS / 4).oscillates;
  }
  let [calm, hunting] = [edge.gainPerS * FIRST_SHARE, edge.gainPerS];
  for (let halving = 0; halving < HALVINGS; halving++) {
    // In equal ratios: gains matter by how many times, not by how much.
    const middle = Math.sqrt(calm * hunting);
    if (yield* hunts(middle)) hunting = middle;
    else calm = middle;
  }
  return calm;
}

/** How many steps of the loop the search takes. */
export function largestGainSteps({ stepMs }: Pick<ExportLimitRequest, "stepMs">, delayMs: number): number {
  const { trialS, trialStepMs } = trialSteps(stepMs, delayMs);
  return (HALVINGS * trialS * 1000) / trialStepMs;
}

function trialSteps(stepMs: number, delayMs: number): { readonly trialS: number; readonly trialStepMs: number } {
  const trialS = Math.max(TRIAL_LEAST_S, (TRIAL_DELAYS * delayMs) / 1000);
  // A sluggish loop is looked at in coarser steps; the most sluggish ones in so many that the search stays short.
  return { trialS, trialStepMs: Math.max(stepMs, Math.min(50, delayMs / 40), (trialS * 1000) / MOST_TRIAL_STEPS) };
}

function trialOf(request: ExportLimitRequest, phase: string, delayMs: number): ExportLimitRequest {
  const { inverters, meter, system } = request;
  const { trialS, trialStepMs } = trialSteps(request.stepMs, delayMs);
  const ratedW = inverters.reduce((sum, inverter) => sum + inverter.ratedW, 0);
  const loads = phasesOfSystem(system).flatMap((own) => {
    const fedW = inverters.reduce(
      (sum, inverter) => sum + (inverter.phases.includes(own) ? inverter.ratedW / inverter.phases.length : 0),
      0,
    );
    if (own !== phase)
      // Where the limit is on each phase, no other phase is ever the worst.
      return [{ atS: 0, phase: own, powerW: REST_SHARE * fedW + (request.limit.basis === "sum" ? 0 : ratedW) }];
    const offW =
      request.limit.basis === "sum" ? (REST_SHARE - AFTER_SHARE) * ratedW : (REST_SHARE - AFTER_SHARE) * fedW;
    const onW = Math.max(REST_SHARE * fedW, offW);
    return [
      { atS: 0, phase: own, powerW: onW },
      { atS: trialS / 4, phase: own, powerW: onW - offW },
    ];
  });
  return {
    ...request,
    stepMs: trialStepMs,
    durationS: trialS,
    events: [],
    loads,
    inverters: inverters.map((inverter) => ({ ...inverter, availableW: inverter.ratedW, minW: 0 })),
    controller: { ...request.controller, setPointW: 0 },
    // As old as a reading can be, at every moment.
    meter: {
      ...meter,
      samplePeriodMs: trialStepMs,
      delayMs: Math.max(0, meter.delayMs + meter.samplePeriodMs - trialStepMs),
    },
  };
}
