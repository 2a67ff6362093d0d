import type { ExportEvent, ExportLimitRequest } from "@/core/control/exportLimitSchema";
import type { Phase } from "@/core/site/planSchema";
import { inOneGo, type Slices } from "@/core/slices";

/** Between two slices: about 5 ms on one usual core. Meter, loads and controller take as long as so many inverters. */
const INVERTER_STEPS_A_SLICE = 60_000;
const FIXED_SHARE = 4;

/** A run of the simulation, every step of it. Powers in W; the grid is positive when importing. */
export interface ExportRun {
  readonly steps: number;
  readonly stepS: number;
  readonly phases: readonly Phase[];
  readonly gridW: Float64Array;
  readonly phaseW: readonly Float64Array[];
  readonly loadW: Float64Array;
  readonly inverterW: Float64Array;
  /** Of each inverter, in the order of the request. */
  readonly eachW: readonly Float64Array[];
  readonly seenW: Float64Array;
  readonly batteryW: Float64Array;
  readonly diverterW: Float64Array;
}

const PHASES: readonly Phase[] = ["L1", "L2", "L3"];

interface InverterState {
  readonly ratedW: number;
  availableW: number;
  readonly phases: readonly number[];
  /** Commands on their way, a ring as long as the dead time. */
  readonly commands: Float64Array;
  readonly approach: number;
  readonly rampW: number;
  readonly minW: number;
  readonly lostAfterSteps: number;
  readonly fallbackW: number;
  targetW: number;
  outputW: number;
  isLost: boolean;
}

interface ActorState {
  readonly phases: readonly number[];
  readonly gain: number;
  readonly setPointW: number;
  readonly every: number;
  readonly approach: number;
  readonly least: number;
  readonly most: number;
  targetW: number;
  outputW: number;
}

/**
 * An export limit in the time domain, step by step: load and sun as they change, each inverter with its dead time, ramp
 * and
 * first-order lag (discretised exactly: 1 − e^(−Δt/τ)), the meter sampled and late, the controller in its own period.
 * On every phase load + battery + diverter = grid + inverters, at every step.
 *
 * @example No load and 9500 W of sun under a limit of 5000 W: the grid settles at the set-point.
 */
export function simulateExport(request: ExportLimitRequest): ExportRun {
  return inOneGo(simulateExportInSlices(request));
}

/** `simulateExport` in slices. */
export function* simulateExportInSlices(request: ExportLimitRequest): Slices<ExportRun> {
  const { stepMs, durationS, meter, controller, limit } = request;
  const stepS = stepMs / 1000;
  const steps = Math.max(1, Math.round(durationS / stepS));
  const phases = PHASES.slice(0, request.system === "three-phase" ? 3 : request.system === "split-phase" ? 2 : 1);
  const inverters = request.inverters.map((inverter) => inverterState(inverter, stepMs, phases));
  const battery =
    request.battery && actorState(request.battery, -request.battery.powerW, request.battery.powerW, stepMs, phases);
  const diverter = request.diverter && actorState(request.diverter, 0, request.diverter.ratedW, stepMs, phases);
  const loads = request.loads.toSorted((a, b) => a.atS - b.atS);
  const events = request.events.toSorted((a, b) => a.atS - b.atS);
  const ids = request.inverters.map(({ id }) => id);
  const array = () => new Float64Array(steps);
  const run = {
    gridW: array(),
    phaseW: phases.map(array),
    loadW: array(),
    inverterW: array(),
    eachW: inverters.map(array),
    seenW: array(),
    batteryW: array(),
    diverterW: array(),
  };
  yield;
  const loadOf = new Float64Array(phases.length);
  const net = new Float64Array(phases.length);
  const delaySteps = Math.max(0, Math.round(meter.delayMs / stepMs));
  // What was sampled, waiting to arrive; per phase.
  const onTheWay = Array.from({ length: delaySteps + 1 }, () => new Float64Array(phases.length));
  const seen = new Float64Array(phases.length);
  let sampled = new Float64Array(phases.length);
  const sampleEvery = Math.max(1, Math.round(meter.samplePeriodMs / stepMs));
  const controlEvery = Math.max(1, Math.round(controller.periodMs / stepMs));
  const ratedW = inverters.reduce((sum, inverter) => sum + inverter.ratedW, 0);
  let nextLoad = 0;
  let allowedW = ratedW;
  // The run begins at rest: what happens at 0 was so before, and the limit holds.
  for (; nextLoad < loads.length && loads[nextLoad]!.atS <= 0; nextLoad++)
    loadOf[phases.indexOf(loads[nextLoad]!.phase)] = loads[nextLoad]!.powerW;
  const restW = restingW(request, loadOf, inverters);
  if (restW < inverters.reduce((sum, { availableW, ratedW: own }) => sum + Math.min(availableW, own), 0))
    allowedW = restW;
  net.set(loadOf);
  for (const inverter of inverters) {
    inverter.commands.fill((allowedW * inverter.ratedW) / ratedW);
    inverter.targetW = Math.min(inverter.availableW, (allowedW * inverter.ratedW) / ratedW);
    inverter.outputW = inverter.targetW;
    for (const phase of inverter.phases) net[phase] = net[phase]! - inverter.outputW / inverter.phases.length;
  }
  sampled = Float64Array.from(net, (watts) => watts * (1 + meter.errorPct / 100));
  for (const late of onTheWay) late.set(sampled);
  seen.set(sampled);
  let isMeterLost = false;
  let isGridOn = true;
  let silentSteps = 0;
  let nextEvent = 0;
  const happen = (event: ExportEvent) => {
    switch (event.kind) {
      case "meter-lost":
        isMeterLost = true;
        break;
      case "meter-back":
        isMeterLost = false;
        break;
      case "inverter-lost":
        inverters[ids.indexOf(event.id)]!.isLost = true;
        break;
      case "inverter-back":
        inverters[ids.indexOf(event.id)]!.isLost = false;
        break;
      case "grid-lost":
        isGridOn = false;
        break;
      case "grid-return":
        isGridOn = true;
        break;
      case "sun":
        inverters.forEach((inverter, at) => {
          if (event.id === undefined || ids[at] === event.id) inverter.availableW = event.availableW;
        });
        break;
    }
  };
  const sliceSteps = Math.ceil(INVERTER_STEPS_A_SLICE / (inverters.length + FIXED_SHARE));
  for (let step = 0; step < steps; step++) {
    if (step % sliceSteps === sliceSteps - 1) yield;
    const t = step * stepS + 1e-9;
    for (; nextLoad < loads.length && loads[nextLoad]!.atS <= t; nextLoad++)
      loadOf[phases.indexOf(loads[nextLoad]!.phase)] = loads[nextLoad]!.powerW;
    for (; nextEvent < events.length && events[nextEvent]!.atS <= t; nextEvent++) happen(events[nextEvent]!);
    if (step % sampleEvery === 0 && step > 0)
      sampled = Float64Array.from(net, (watts) => watts * (1 + meter.errorPct / 100));
    onTheWay[step % (delaySteps + 1)]!.set(sampled);
    if (isMeterLost) silentSteps++;
    else {
      silentSteps = 0;
      seen.set(onTheWay[(step + 1) % (delaySteps + 1)]!);
    }
    if (step % controlEvery === 0 && !isMeterLost)
      allowedW = controlled(request, seen, allowedW, inverters, limit.basis, ratedW);
    net.set(loadOf);
    let made = 0;
    for (let which = 0; which < inverters.length; which++) {
      const inverter = inverters[which]!;
      const output = advance(inverter, step, (allowedW * inverter.ratedW) / ratedW, silentSteps, isGridOn);
      made += output;
      run.eachW[which]![step] = output;
      const each = output / inverter.phases.length;
      for (const phase of inverter.phases) net[phase] = net[phase]! - each;
    }
    run.batteryW[step] = act(battery, step, seen, net, isGridOn);
    run.diverterW[step] = act(diverter, step, seen, net, isGridOn);
    if (!isGridOn) net.fill(0);
    let grid = 0,
      load = 0,
      believed = 0;
    for (let phase = 0; phase < phases.length; phase++) {
      run.phaseW[phase]![step] = net[phase]!;
      grid += net[phase]!;
      load += isGridOn ? loadOf[phase]! : 0;
      believed += seen[phase]!;
    }
    run.gridW[step] = grid;
    run.loadW[step] = load;
    run.inverterW[step] = made;
    run.seenW[step] = believed;
  }
  return { steps, stepS, phases, ...run };
}

function inverterState(
  inverter: ExportLimitRequest["inverters"][number],
  stepMs: number,
  phases: readonly Phase[],
): InverterState {
  return {
    ratedW: inverter.ratedW,
    availableW: inverter.availableW,
    phases: inverter.phases.map((phase) => phases.indexOf(phase)),
    commands: new Float64Array(Math.max(1, Math.round(inverter.deadTimeMs / stepMs) + 1)),
    approach: approachOf(inverter.tauMs, stepMs),
    rampW: (inverter.rampWPerS * stepMs) / 1000,
    minW: inverter.minW,
    lostAfterSteps: inverter.lostMeter ? Math.round(inverter.lostMeter.afterMs / stepMs) : Infinity,
    fallbackW: inverter.lostMeter?.fallbackW ?? 0,
    targetW: 0,
    outputW: 0,
    isLost: false,
  };
}

/** The exact share of the way that a first-order lag goes in one step. */
function approachOf(tauMs: number, stepMs: number): number {
  return tauMs <= 0 ? 1 : 1 - Math.exp(-stepMs / tauMs);
}

function actorState(
  actor: NonNullable<ExportLimitRequest["battery"] | ExportLimitRequest["diverter"]>,
  least: number,
  most: number,
  stepMs: number,
  phases: readonly Phase[],
): ActorState {
  return {
    phases: actor.phases.map((phase) => phases.indexOf(phase)).filter((phase) => phase >= 0),
    gain: (actor.gainPerS * actor.periodMs) / 1000,
    setPointW: actor.setPointW,
    every: Math.max(1, Math.round(actor.periodMs / stepMs)),
    approach: approachOf(actor.tauMs, stepMs),
    least,
    most,
    targetW: 0,
    outputW: 0,
  };
}

/** What the inverters make with the limit at rest, W. */
function restingW(
  { controller, limit, meter }: ExportLimitRequest,
  loadOf: Float64Array,
  inverters: readonly InverterState[],
): number {
  const shown = controller.setPointW / (1 + meter.errorPct / 100);
  const availableW = inverters.reduce((sum, inverter) => sum + Math.min(inverter.availableW, inverter.ratedW), 0);
  const load =
    limit.basis === "sum"
      ? loadOf.reduce((sum, watts) => sum + watts, 0) + shown
      : (Math.min(...loadOf) + shown) * loadOf.length;
  return Math.max(0, Math.min(availableW, load));
}

/** What all inverters together may make, from what the controller believes of the grid. */
function controlled(
  { controller }: ExportLimitRequest,
  seen: Float64Array,
  allowedW: number,
  inverters: readonly InverterState[],
  basis: "sum" | "per-phase",
  ratedW: number,
): number {
  let sum = 0,
    worst = -Infinity;
  for (const watts of seen) {
    sum -= watts;
    worst = Math.max(worst, -watts);
  }
  const error = basis === "sum" ? controller.setPointW - sum : (controller.setPointW - worst) * seen.length;
  if (Math.abs(error) <= controller.deadBandW) return allowedW;
  const gain = (controller.gainPerS * controller.periodMs) / 1000;
  // A share of the gap from where the inverters are, or more and more of it for as long as it lasts.
  const from = controller.kind === "integral" ? allowedW : inverters.reduce((made, { outputW }) => made + outputW, 0);
  const next = from + (controller.kind === "integral" ? gain : Math.min(1, gain)) * error;
  return Math.min(ratedW, Math.max(0, next));
}

function advance(
  inverter: InverterState,
  step: number,
  commandW: number,
  silentSteps: number,
  isGridOn: boolean,
): number {
  const { commands } = inverter;
  commands[step % commands.length] = silentSteps > inverter.lostAfterSteps ? inverter.fallbackW : commandW;
  const heard = commands[(step + 1) % commands.length]!;
  const wanted = Math.min(heard, inverter.availableW, inverter.ratedW);
  const reachable = wanted < inverter.minW ? 0 : wanted;
  inverter.targetW += Math.max(-inverter.rampW, Math.min(inverter.rampW, reachable - inverter.targetW));
  // Sun that is gone cannot be delivered, whatever the ramp says.
  inverter.targetW = Math.min(inverter.targetW, inverter.availableW);
  if (inverter.isLost || !isGridOn) {
    inverter.targetW = 0;
    inverter.outputW = 0;
    return 0;
  }
  inverter.outputW += inverter.approach * (inverter.targetW - inverter.outputW);
  return inverter.outputW;
}

/** Another controller takes (positive) or gives so that the grid comes to its own set-point. */
function act(
  actor: ActorState | undefined,
  step: number,
  seen: Float64Array,
  net: Float64Array,
  isGridOn: boolean,
): number {
  if (!actor || actor.phases.length === 0) return 0;
  if (!isGridOn) {
    actor.targetW = 0;
    actor.outputW = 0;
    return 0;
  }
  if (step % actor.every === 0) {
    let sum = 0;
    for (const watts of seen) sum += watts;
    actor.targetW = Math.min(actor.most, Math.max(actor.least, actor.targetW + actor.gain * (actor.setPointW - sum)));
  }
  actor.outputW += actor.approach * (actor.targetW - actor.outputW);
  const each = actor.outputW / actor.phases.length;
  for (const phase of actor.phases) net[phase] = net[phase]! + each;
  return actor.outputW;
}
