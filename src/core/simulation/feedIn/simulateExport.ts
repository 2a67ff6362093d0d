import type { ExportEvent, ExportLimitRequest } from "@/core/simulation/exportLimitSchema";
import { ExportController } from "@/core/simulation/feedIn/exportController";
import { GridActor } from "@/core/simulation/feedIn/gridActor";
import { LaggingInverter } from "@/core/simulation/feedIn/laggingInverter";
import { betweenSteps } from "@/core/simulation/feedIn/betweenSteps";
import { microseconds } from "@/core/simulation/feedIn/late";
import { LateMeter } from "@/core/simulation/feedIn/lateMeter";
import { phasesOfSystem } from "@/core/simulation/feedIn/phasesOfSystem";
import type { Phase } from "@/core/phase";
import { inOneGo, type Slices } from "@/core/slices";

/** Between two slices: about 5 ms on one usual core. Meter, loads and controller take as long as so many inverters. */
const INVERTER_STEPS_A_SLICE = 60_000;
const FIXED_SHARE = 4;

/** What a simulation traces, every step of it. Powers in W; the grid is positive when importing. */
export interface ExportTraces {
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

/**
 * An export limit in the time domain, step by step: load and sun as they change, each inverter with its dead time, ramp
 * and first-order lag (discretised exactly: 1 − e^(−Δt/τ)), the meter sampled and late, the controller in its own
 * period. What falls between two steps happens there: no period, delay or dead time is rounded to a step. On every
 * phase load + battery + diverter = grid + inverters, at every step.
 *
 * For example: No load and 9500 W of sun under a limit of 5000 W: the grid settles at the set-point.
 */
export function simulateExport(request: ExportLimitRequest): ExportTraces {
  return inOneGo(simulateExportInSlices(request));
}

/** `simulateExport` in slices. */
export function* simulateExportInSlices(request: ExportLimitRequest): Slices<ExportTraces> {
  const loop = new ExportLoop(request);
  const sliceSteps = Math.ceil(INVERTER_STEPS_A_SLICE / (request.inverters.length + FIXED_SHARE));
  for (let from = 0; from < loop.trace.steps; from += sliceSteps) {
    yield;
    loop.advance(from, Math.min(loop.trace.steps, from + sliceSteps));
  }
  return loop.trace;
}

/** Loads, sun, meter, controller and inverters, stepping together. */
class ExportLoop {
  readonly trace: ExportTraces;
  private readonly inverters: readonly LaggingInverter[];
  private readonly ids: readonly string[];
  private readonly ratedW: number;
  private readonly battery: GridActor | undefined;
  private readonly diverter: GridActor | undefined;
  private readonly controller: ExportController;
  private readonly meter: LateMeter;
  private readonly loads: ExportLimitRequest["loads"];
  private readonly events: readonly ExportEvent[];
  /** Of each phase: what loads draw, and what flows from the grid. */
  private readonly loadW: Float64Array;
  private readonly netW: Float64Array;
  private readonly stepMs: number;
  private readonly between: Float64Array;
  private nextBetween = 0;
  private isGridOn = true;
  private nextLoad = 0;
  private nextEvent = 0;

  constructor(request: ExportLimitRequest) {
    const { stepMs, battery, diverter } = request;
    this.trace = emptyTrace(request);
    this.stepMs = stepMs;
    this.between = betweenSteps(request);
    const { phases } = this.trace;
    this.inverters = request.inverters.map((inverter) => new LaggingInverter(inverter, phases));
    this.ids = request.inverters.map(({ id }) => id);
    this.ratedW = this.inverters.reduce((sum, inverter) => sum + inverter.ratedW, 0);
    this.battery = battery && new GridActor(battery, -battery.powerW, battery.powerW, phases);
    this.diverter = diverter && new GridActor(diverter, 0, diverter.ratedW, phases);
    this.controller = new ExportController(request, this.inverters, this.ratedW);
    this.loads = request.loads.toSorted((a, b) => a.atS - b.atS);
    this.events = request.events.toSorted((a, b) => a.atS - b.atS);
    this.loadW = new Float64Array(phases.length);
    // It begins at rest: what happens at 0 was so before, and the limit holds.
    this.switchLoads(0);
    this.controller.settle(this.loadW);
    this.netW = this.loadW.slice();
    for (const inverter of this.inverters) {
      inverter.settle(this.commandW(inverter));
      this.feed(inverter, inverter.outputW);
    }
    this.meter = new LateMeter(request.meter, this.netW);
  }

  advance(from: number, to: number): void {
    for (let step = from; step < to; step++) {
      const endUs = microseconds((step + 1) * this.stepMs);
      for (let us = microseconds(step * this.stepMs); us < endUs;) {
        const nextUs = Math.min(endUs, this.between[this.nextBetween] ?? Infinity);
        if (nextUs < endUs) this.nextBetween++;
        this.switchLoads(us);
        for (; this.nextEvent < this.events.length && microsecondsOf(this.events[this.nextEvent]!) <= us;)
          this.happen(us, this.events[this.nextEvent++]!);
        this.go(us, nextUs - us, step);
        us = nextUs;
      }
    }
  }

  /** From a time on for so long; the last part of a step is what its trace shows. */
  private go(us: number, lastsUs: number, step: number): void {
    const { trace, meter, controller, netW, loadW, inverters, isGridOn } = this;
    meter.at(us, netW);
    controller.at(us, meter.seenW, meter.lostUs === undefined);
    netW.set(loadW);
    let madeW = 0;
    for (let which = 0; which < inverters.length; which++) {
      const inverter = inverters[which]!;
      const outputW = inverter.step(us, lastsUs, this.commandW(inverter), meter.lostUs, isGridOn);
      madeW += outputW;
      trace.eachW[which]![step] = outputW;
      this.feed(inverter, outputW);
    }
    trace.batteryW[step] = this.battery?.step(us, lastsUs, meter.seenW, netW, isGridOn) ?? 0;
    trace.diverterW[step] = this.diverter?.step(us, lastsUs, meter.seenW, netW, isGridOn) ?? 0;
    if (!isGridOn) netW.fill(0);
    let gridW = 0;
    let drawnW = 0;
    let believedW = 0;
    for (let phase = 0; phase < netW.length; phase++) {
      trace.phaseW[phase]![step] = netW[phase]!;
      gridW += netW[phase]!;
      drawnW += isGridOn ? loadW[phase]! : 0;
      believedW += meter.seenW[phase]!;
    }
    trace.gridW[step] = gridW;
    trace.loadW[step] = drawnW;
    trace.inverterW[step] = madeW;
    trace.seenW[step] = believedW;
  }

  private commandW({ ratedW }: LaggingInverter): number {
    return (this.controller.allowedW * ratedW) / this.ratedW;
  }

  private feed({ phases }: LaggingInverter, outputW: number): void {
    const eachW = outputW / phases.length;
    for (const phase of phases) this.netW[phase] = this.netW[phase]! - eachW;
  }

  private switchLoads(us: number): void {
    for (; this.nextLoad < this.loads.length && microsecondsOf(this.loads[this.nextLoad]!) <= us; this.nextLoad++) {
      const { phase, powerW } = this.loads[this.nextLoad]!;
      this.loadW[this.trace.phases.indexOf(phase)] = powerW;
    }
  }

  private happen(us: number, event: ExportEvent): void {
    switch (event.kind) {
      case "meter-lost":
      case "meter-back":
        this.meter.lostUs = event.kind === "meter-lost" ? (this.meter.lostUs ?? us) : undefined;
        break;
      case "inverter-lost":
      case "inverter-back":
        this.inverters[this.ids.indexOf(event.id)]!.isLost = event.kind === "inverter-lost";
        break;
      case "grid-lost":
      case "grid-return":
        this.isGridOn = event.kind === "grid-return";
        break;
      case "sun":
        this.inverters.forEach((inverter, at) => {
          if (event.id === undefined || this.ids[at] === event.id) inverter.availableW = event.availableW;
        });
        break;
    }
  }
}

function microsecondsOf({ atS }: { readonly atS: number }): number {
  return microseconds(atS * 1000);
}

function emptyTrace({ stepMs, durationS, system, inverters }: ExportLimitRequest): ExportTraces {
  const stepS = stepMs / 1000;
  const steps = Math.max(1, Math.round(durationS / stepS));
  const phases = phasesOfSystem(system);
  const array = () => new Float64Array(steps);
  return {
    steps,
    stepS,
    phases,
    gridW: array(),
    phaseW: phases.map(array),
    loadW: array(),
    inverterW: array(),
    eachW: inverters.map(array),
    seenW: array(),
    batteryW: array(),
    diverterW: array(),
  };
}
