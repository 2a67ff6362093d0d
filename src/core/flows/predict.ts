import { said, together } from "@/core/sentence";
import { z } from "zod";
import type { Finding } from "@/core/findings";
import type { Problem } from "@/core/problem";
import { refineWith } from "@/core/problem";
import { runCurrents, windowCurrent, type RunCurrents } from "@/core/flows/currents";
import { inputGain, inputSign } from "@/core/flows/inputFactors";
import { deviceProblems, siteStateShape, type SiteState } from "@/core/flows/stateSchema";
import { idealCt } from "@/core/site/idealCt";
import type { Conductor, Ct, Meter, MeterInput, Site } from "@/core/site/planSchema";
import { conjugate, magnitude, multiply, scale, ZERO } from "@/core/complex";
import { phaseVoltage, plannedTaps } from "@/core/site/phasors";
import { siteSchema } from "@/core/site/siteSchema";
import { conductorsOf, siteTree } from "@/core/site/tree";

/** Below this a flow counts as none, so that rounding never names a direction. */
const NO_FLOW_BELOW_W = 1;

/** The request of the predict route; every unknown id or missing phase is an issue with its path. */
export const predictRequestSchema = z
  .object({ site: siteSchema, as: z.enum(["planned", "fitted"]), state: siteStateShape })
  .superRefine(refineWith(predictProblems));

/** Whether the CTs are taken as the plan wants them or as they are fitted. */
export type Fitting = "planned" | "fitted";
/** Which way power goes in a window. */
export type FlowDirection = "to-load" | "to-grid" | "none";

/** What one input shows, W and var in its own sign, and A. */
export interface InputReading {
  readonly meter: string;
  readonly input: number;
  readonly powerW: number;
  readonly reactiveVar: number;
  readonly currentA: number;
  /** The true direction on what the input is meant to measure, whatever its reading says. */
  readonly flow: FlowDirection;
}

/** What flows in one conductor of a run, A and W toward the load side. */
export interface RunFlow {
  readonly run: string;
  readonly conductor: Conductor;
  readonly currentA: number;
  /** Angle of the current phasor against L1's voltage, −180° exclusive to 180° inclusive. */
  readonly angleDeg: number;
  /** Real power toward the load side; zero by definition on the neutral. */
  readonly powerW: number;
}

/** What every input reads and every run carries in a state. */
export interface Prediction {
  readonly inputs: readonly InputReading[];
  readonly meters: readonly { readonly meter: string; readonly powerW: number }[];
  readonly runs: readonly RunFlow[];
  /** Inputs that cannot be predicted (a CT and an input of different kinds); they are left out of `inputs`. */
  readonly findings: readonly Finding[];
}

/**
 * What every meter input reads in a state of the site: S = sign · gain · V_tap · conj(I), with I the CT's
 * turns times the sum of the run currents through its window.
 *
 * For example: A house drawing 900 W and solar giving 4200 W, both balanced on three phases: input 1, on the main
 * run's L1 and positive toward the loads, reads (900 − 4200) / 3 = −1100 W, flow `to-grid`.
 *
 * @param site A valid plan.
 * @param as `planned` puts an ideal CT on every input and every tap on its planned phase; `fitted` uses
 *   the plan's CTs and taps, and an input without a CT reads 0.
 * @returns Readings in W, var and A. An input whose CT gives another kind of signal than it takes
 *   (volts against amperes) has no reading but a finding that stops.
 */
export function predict(site: Site, as: Fitting, state: SiteState): Prediction {
  const currents = runCurrents(site, state.devices);
  const inputs: InputReading[] = [];
  const findings: Finding[] = [];
  const meters = site.meters.map((meter) => {
    let powerW = 0;
    for (const input of meter.inputs) {
      const ct = as === "planned" ? idealCt(meter, input) : pluggedCt(site, meter.id, input.n);
      const reading = inputReading(site, { meter, input, ct, as }, currents);
      if (reading) {
        inputs.push(reading);
        powerW += reading.powerW;
      } else if (ct) findings.push(unitClash(meter, input, ct));
    }
    return { meter: meter.id, powerW };
  });
  return { inputs, meters, runs: runFlows(site, currents), findings };
}

function predictProblems(request: { site: Site; state: SiteState }): readonly Problem[] {
  return deviceProblems(request.state.devices, request.site).map((problem) => ({
    ...problem,
    path: ["state", "devices", ...problem.path],
  }));
}

function pluggedCt(site: Site, meter: string, input: number): Ct | undefined {
  return site.cts.find((ct) => ct.plug?.meter === meter && ct.plug.input === input);
}

interface FittedInput {
  readonly meter: Meter;
  readonly input: MeterInput;
  readonly ct: Ct | undefined;
  readonly as: Fitting;
}

function inputReading(
  site: Site,
  { meter, input, ct, as }: FittedInput,
  currents: ReadonlyMap<string, RunCurrents>,
): InputReading | undefined {
  const flow = trueFlow(site, input, currents);
  if (!ct) return { meter: meter.id, input: input.n, powerW: 0, reactiveVar: 0, currentA: 0, flow };
  const gain = inputGain(input, ct);
  if (gain === undefined) return undefined;
  const taps = as === "planned" ? plannedTaps(meter.taps) : meter.taps;
  const tapPhase = taps[input.tap];
  if (!tapPhase) throw new Error(`predict: meter "${meter.id}" has no tap "${input.tap}"`);
  const current = scale(windowCurrent(ct.around, currents), ct.turns);
  const power = multiply(phaseVoltage(site.supply, tapPhase), conjugate(current));
  const factor = inputSign(input, ct) * gain;
  return {
    meter: meter.id,
    input: input.n,
    powerW: positiveZero(factor * power.re),
    reactiveVar: positiveZero(factor * power.im),
    currentA: gain * magnitude(current),
    flow,
  };
}

function trueFlow(site: Site, input: MeterInput, currents: ReadonlyMap<string, RunCurrents>): FlowDirection {
  const powerW = input.measures.reduce(
    (sum, entry) => sum + conductorPowerW(site, entry.conductor, currents.get(entry.run) ?? {}),
    0,
  );
  if (Math.abs(powerW) < NO_FLOW_BELOW_W) return "none";
  return powerW > 0 ? "to-load" : "to-grid";
}

function runFlows(site: Site, currents: ReadonlyMap<string, RunCurrents>): readonly RunFlow[] {
  return siteTree(site).runs.flatMap((run) =>
    conductorsOf(run, site).map((conductor) => {
      const onRun = currents.get(run.id) ?? {};
      const current = onRun[conductor] ?? ZERO;
      return {
        run: run.id,
        conductor,
        currentA: magnitude(current),
        angleDeg: angleDeg(current.re, current.im),
        powerW: positiveZero(conductorPowerW(site, conductor, onRun)),
      };
    }),
  );
}

function conductorPowerW(site: Site, conductor: Conductor, currents: RunCurrents): number {
  const current = currents[conductor];
  if (!current || conductor === "N") return 0;
  return multiply(phaseVoltage(site.supply, conductor), conjugate(current)).re;
}

function angleDeg(re: number, im: number): number {
  // A current of nothing but rounding has no angle worth showing, and atan2 tells −180° from 180° by a zero's sign.
  const degrees = (Math.atan2(positiveZero(im), positiveZero(re)) * 180) / Math.PI;
  return degrees <= -180 + 1e-9 ? 180 : degrees;
}

function positiveZero(value: number): number {
  return value === 0 ? 0 : value;
}

function unitClash(meter: Meter, input: MeterInput, ct: Ct): Finding {
  return {
    id: `unit-clash:${ct.id}`,
    code: "unit-clash",
    severity: "stop",
    stage: "place",
    title: "CT and input do not fit",
    subject: { kind: "ct", id: ct.id, meter: meter.id, input: input.n },
    detail: together(
      said`CT ${ct.id} gives ${ct.secondary.value} ${ct.secondary.unit}; input ${input.n} of `,
      said`${meter.name} takes ${input.secondary.value} ${input.secondary.unit}. Nothing it reads can be right.`,
    ),
    cure:
      "Fit a CT of the kind that the input takes. Leave a current-output CT shorted until its " +
      "leads are terminated.",
    source: "CT and input secondary, plan",
  };
}
