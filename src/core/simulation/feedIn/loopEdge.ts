import { phasesOfSystem } from "@/core/simulation/feedIn/phasesOfSystem";
import type { ExportLimitRequest } from "@/core/simulation/exportLimitSchema";
import type { Phase } from "@/core/phase";
import { inOneGo, type Slices } from "@/core/slices";
import { add, divide, multiply, scale, subtract, ZERO, type Complex } from "@/core/complex";

type Loop = Pick<ExportLimitRequest, "system" | "inverters" | "meter" | "controller" | "limit"> &
  Partial<Pick<ExportLimitRequest, "battery" | "diverter">>;

/** Frequencies that are looked at, up to half of the controller's own. */
const FREQUENCIES = 6000;
const HALVINGS = 50;
/** So many frequencies between two chances to stop: a few ms of 64 inverters that are all different. */
const A_SLICE = 100;
/** More no request may ask for. */
const MOST_GAIN_PER_S = 1000;
const ONE: Complex = { re: 1, im: 0 };

/** The least gain at which a loop swings for ever, 1/s, and the phase that shows it; undefined on the sum. */
export interface LoopEdge {
  readonly gainPerS: number;
  readonly phase: Phase | undefined;
}

/**
 * The gain at the edge of an integral limit: house load on, sun above the limit, nothing at an end, on the phase that
 * answers most, with every reading as old as it can be. An inverter of dead time d and lag τ behind a controller of
 * period T answers as
 *
 *   H(z) = z^−(m+1) · ((1 − e^(−(T−δ)/τ)) z + e^(−(T−δ)/τ) − e^(−T/τ)) / (z − e^(−T/τ)),   D = m T + δ,
 *
 * with D all delays together: sampling, transport, dead time. The loop is at its edge where for a z = e^(jωT)
 *
 *   1 + B(z) + g T · H(z) / (1 − z^−1) = 0,
 *
 * B what battery and heater add with their own gains; the least such g is the answer. A ramp is no part of it.
 *
 * Source: K. J. Åström and B. Wittenmark, Computer-Controlled Systems, sampling of a first-order system with delay.
 *
 * For example: samples every 200 ms, 350 ms late, every 500 ms, dead time 200 ms, lag 400 ms: gainPerS 1.68.
 */
export function loopEdge(loop: Loop): LoopEdge {
  return inOneGo(loopEdgeInSlices(loop));
}

/** `loopEdge` in slices of some frequencies. */
export function* loopEdgeInSlices(loop: Loop): Slices<LoopEdge> {
  const phases = [...new Set(loop.inverters.flatMap((inverter) => inverter.phases))];
  const seen: readonly (Phase | undefined)[] = loop.limit.basis === "sum" ? [undefined] : phases;
  let least: LoopEdge = { phase: seen[0], gainPerS: Infinity };
  for (const phase of seen) {
    const gainPerS = Math.min(MOST_GAIN_PER_S, yield* edgeGain(loop, phase));
    if (gainPerS < least.gainPerS) least = { phase, gainPerS };
  }
  return least;
}

/** The least gain at the edge, seen from the sum or from one phase. */
function* edgeGain(loop: Loop, phase: Phase | undefined): Slices<number> {
  const periodS = loop.controller.periodMs / 1000;
  const kinds = answersOf(loop, phase);
  const at = (omega: number): Complex => {
    const own = scale(integrator(omega, periodS, answer(kinds, omega, periodS)), periodS);
    return scale(divide(add(ONE, others(loop, omega)), own), -1);
  };
  const most = Math.PI / periodS;
  let least = Infinity;
  let [before, omegaBefore] = [at(most / FREQUENCIES), most / FREQUENCIES];
  for (let step = 2; step <= FREQUENCIES; step++) {
    const omega = (step / FREQUENCIES) * most;
    const now = at(omega);
    if (Math.sign(now.im) !== Math.sign(before.im)) {
      const crossing = crossingOf(at, omegaBefore, omega);
      if (crossing > 0) least = Math.min(least, crossing);
    }
    [before, omegaBefore] = [now, omega];
    if (step % A_SLICE === 0) yield;
  }
  return before.re > 0 && Math.abs(before.im) < 1e-6 * before.re ? Math.min(least, before.re) : least;
}

/** The real part where the imaginary part goes through nothing. */
function crossingOf(at: (omega: number) => Complex, from: number, to: number): number {
  let [low, high] = [from, to];
  const sign = Math.sign(at(low).im);
  for (let half = 0; half < HALVINGS; half++) {
    const middle = (low + high) / 2;
    if (Math.sign(at(middle).im) === sign) low = middle;
    else high = middle;
  }
  return at((low + high) / 2).re;
}

/** Inverters that answer alike, and what they make together of one watt that is allowed. */
interface Answering {
  readonly delayS: number;
  readonly tauS: number;
  share: number;
}

/** Every inverter by its share of what is allowed, on the phase that is read; those that answer alike as one. */
function answersOf({ system, inverters, meter }: Loop, phase: Phase | undefined): readonly Answering[] {
  const ratedW = inverters.reduce((sum, inverter) => sum + inverter.ratedW, 0);
  // A limit on each phase asks of the sum as many times what the worst phase is off.
  const times = phase === undefined ? 1 : phasesOfSystem(system).length;
  const oldestMs = meter.samplePeriodMs + meter.delayMs;
  const kinds = new Map<string, Answering>();
  for (const { ratedW: ownW, phases, deadTimeMs, tauMs } of inverters) {
    const onPhase = phase === undefined ? 1 : phases.filter((own) => own === phase).length / phases.length;
    const share = ((1 + meter.errorPct / 100) * onPhase * times * ownW) / ratedW;
    const key = `${deadTimeMs} ${tauMs}`;
    const alike = kinds.get(key);
    if (alike) alike.share += share;
    else if (share > 0) kinds.set(key, { delayS: (oldestMs + deadTimeMs) / 1000, tauS: tauMs / 1000, share });
  }
  return [...kinds.values()];
}

/** What one watt that is allowed makes of the reading at a frequency, rad/s. */
function answer(kinds: readonly Answering[], omega: number, periodS: number): Complex {
  return kinds.reduce<Complex>(
    (sum, { delayS, tauS, share }) => add(sum, scale(heldLag(omega, periodS, delayS, tauS), share)),
    ZERO,
  );
}

/** What battery and heater add to the loop with their own gains, each in its own period. */
function others({ battery, diverter, meter, limit }: Loop, omega: number): Complex {
  if (limit.basis !== "sum") return ZERO;
  return [battery, diverter].reduce<Complex>((sum, actor) => {
    if (!actor || actor.gainPerS === 0 || actor.phases.length === 0) return sum;
    const periodS = actor.periodMs / 1000;
    const held = heldLag(omega, periodS, (meter.samplePeriodMs + meter.delayMs) / 1000, actor.tauMs / 1000);
    return add(sum, scale(integrator(omega, periodS, held), actor.gainPerS * periodS * (1 + meter.errorPct / 100)));
  }, ZERO);
}

/** A first-order lag behind a hold of one period and a delay, at e^(jωT). */
function heldLag(omega: number, periodS: number, delayS: number, tauS: number): Complex {
  const whole = Math.floor(delayS / periodS + 1e-12);
  const restS = delayS - whole * periodS;
  const decay = (lastsS: number) => (tauS <= 0 ? 0 : Math.exp(-lastsS / tauS));
  const [all, part] = [decay(periodS), decay(periodS - restS)];
  const z = turn(omega * periodS);
  const top = add(scale(z, 1 - part), { re: part - all, im: 0 });
  return multiply(turn(-omega * periodS * (whole + 1)), divide(top, add(z, { re: -all, im: 0 })));
}

/** Behind an integrator: divided by 1 − z^−1. */
function integrator(omega: number, periodS: number, value: Complex): Complex {
  const back = turn(-omega * periodS);
  return divide(value, subtract(ONE, back));
}

function turn(angle: number): Complex {
  return { re: Math.cos(angle), im: Math.sin(angle) };
}
