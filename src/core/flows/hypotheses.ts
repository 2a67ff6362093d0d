import { isInputFault, type CandidateFault } from "@/core/flows/faults";
import {
  applyFault, applyInputFault, inputCanExist, inputOf, plannedFitting, type InputFitting, type SiteFitting,
} from "@/core/flows/fitting";
import { inputSign } from "@/core/flows/inputFactors";
import type { SiteResponses } from "@/core/flows/responses";
import type { Phase, Site } from "@/core/site/planSchema";

/** Faults in one combination at most; the storage below has a slot for each. */
export const MAX_FAULTS = 3;

const NO_FAULT = -1;
const CANNOT_EXIST = -1;
const NOT_MET = -1;
const SAME_RESPONSE = 1e-7;
const SAME_DIGITS = 9;

/** All combinations of faults, and the distinct hypotheses that they come to. */
export interface HypothesisSet {
  readonly inputCount: number;
  /** Number of distinct hypotheses; 0 is the planned fitting. */
  readonly count: number;
  /** For each hypothesis and input, an index into the responses; row-major. */
  readonly inputResponses: Int32Array;
  /** For each hypothesis, the sum of the priors of all combinations that come to it. */
  readonly weights: Float64Array;
  /** For each hypothesis, its likeliest combination. */
  readonly likeliest: Int32Array;
  /** For each response, which of `rows` it scales (row 0 is all zero), and by how much. */
  readonly responseRows: Int32Array;
  readonly responseAmplitudes: Float64Array;
  /** Distinct response rows, scaled so that the first part that counts is one. */
  readonly rows: readonly Float64Array[];
  readonly combinationCount: number;
  /** For each combination, its hypothesis. */
  readonly hypothesisOf: Int32Array;
  readonly priors: Float64Array;
  /** The faults of a combination, as indexes into the candidates. */
  faultsOf(combination: number): readonly number[];
}

/** How many combinations of up to `maxFaults` of `candidates` faults there are, the empty one included. */
export function combinationCount(candidates: number, maxFaults: number): number {
  let sum = 1;
  let choose = 1;
  for (let size = 1; size <= maxFaults; size++) {
    choose = (choose * (candidates - size + 1)) / size;
    sum += Math.max(0, choose);
  }
  return sum;
}

/**
 * Combine up to `maxFaults` distinct faults in every way that can exist, and merge the combinations whose
 * every input answers alike to every possible device power.
 *
 * Faults that move clamps or taps are applied to whole fittings; they are few. Those of single inputs, the
 * bulk, walk through a table of input states that is filled as they are first met.
 */
export function hypothesisSet(
  site: Site, candidates: readonly CandidateFault[], maxFaults: number, responses: SiteResponses,
): HypothesisSet {
  const states = new InputStates(site, responses, candidates.length);
  const store = new HypothesisStore(states.inputCount, combinationCount(candidates.length, maxFaults));
  const moving = candidates.flatMap(({ fault }, at) => isInputFault(fault) ? [] : [at]);
  const single = candidates.flatMap(({ fault }, at) => {
    return isInputFault(fault) ? [{ at, fault, slot: states.slotOf(fault.meter, fault.input), prior: candidates[at]!.prior }] : [];
  });
  const chosen: number[] = [];

  const addSingles = (ids: Int32Array, from: number, prior: number) => {
    store.add(ids, states, chosen, prior);
    if (chosen.length === maxFaults) return;
    for (let next = from; next < single.length; next++) {
      const { at, fault, slot, prior: faultPrior } = single[next]!;
      const before = ids[slot]!;
      ids[slot] = states.after(before, at, (input) => applyInputFault(input, fault));
      chosen.push(at);
      addSingles(ids, next + 1, prior * faultPrior);
      chosen.pop();
      ids[slot] = before;
    }
  };
  const addMoves = (fitting: SiteFitting, from: number, prior: number) => {
    addSingles(states.idsOf(fitting), 0, prior);
    if (chosen.length === maxFaults) return;
    for (let next = from; next < moving.length; next++) {
      const { fault, prior: faultPrior } = candidates[moving[next]!]!;
      chosen.push(moving[next]!);
      addMoves(applyFault(site, fitting, fault), next + 1, prior * faultPrior);
      chosen.pop();
    }
  };
  addMoves(plannedFitting(site), 0, 1);
  return store.finish(states);
}

interface InputState {
  readonly slot: number;
  readonly fitting: InputFitting;
  readonly tapPhase: Phase;
}

/** A response row as one of the distinct rows times a real factor. */
interface ScaledRow {
  readonly row: number;
  readonly factor: number;
}

/** Every way in which single inputs have been met fitted, numbered, with the response of each. */
class InputStates {
  readonly inputCount: number;
  readonly responseRows: number[] = [0];
  readonly responseAmplitudes: number[] = [0];
  readonly rows: Float64Array[];
  private readonly states: InputState[] = [];
  private readonly ids = new Map<string, number>();
  private readonly rowIds = new Map<string, number>();
  private readonly windowRows = new Map<string, ScaledRow>();
  private readonly responseIds = new Map<string, number>([["0|0", 0]]);
  /** For each state, the state after each fault, filled as met. */
  private readonly steps: Int32Array[] = [];
  private readonly stateResponses: number[] = [];
  private readonly slots: Map<string, number>;
  private readonly canExist: (input: InputFitting) => boolean;

  constructor(private readonly site: Site, private readonly siteResponses: SiteResponses, private readonly faultCount: number) {
    const planned = plannedFitting(site).inputs;
    this.inputCount = planned.length;
    this.slots = new Map(planned.map((input, slot) => [JSON.stringify([input.meter, input.input]), slot]));
    this.canExist = inputCanExist(site);
    this.rows = [new Float64Array(siteResponses.columns.length * 2)];
  }

  slotOf(meter: string, input: number): number {
    const slot = this.slots.get(JSON.stringify([meter, input]));
    if (slot === undefined) throw new Error(`slotOf: no input ${input} of "${meter}"`);
    return slot;
  }

  idsOf(fitting: SiteFitting): Int32Array {
    return Int32Array.from(fitting.inputs, (input, slot) => {
      const { input: planned } = inputOf(this.site, input);
      const tapPhase = fitting.taps.get(input.meter)?.[planned.tap];
      if (!tapPhase) throw new Error(`idsOf: "${input.meter}" has no tap "${planned.tap}"`);
      return this.idOf(slot, input, tapPhase);
    });
  }

  after(id: number, fault: number, change: (input: InputFitting) => InputFitting): number {
    const steps = this.steps[id]!;
    let next = steps[fault]!;
    if (next === NOT_MET) {
      const { slot, fitting, tapPhase } = this.states[id]!;
      next = this.idOf(slot, change(fitting), tapPhase);
      steps[fault] = next;
    }
    return next;
  }

  /** Index of a state's response, or `CANNOT_EXIST`. */
  responseOf(id: number): number {
    return this.stateResponses[id]!;
  }

  private idOf(slot: number, fitting: InputFitting, tapPhase: Phase): number {
    const key = JSON.stringify([slot, fitting.around, fitting.reversed, fitting.gain, tapPhase]);
    let id = this.ids.get(key);
    if (id === undefined) {
      id = this.states.push({ slot, fitting, tapPhase }) - 1;
      this.steps.push(new Int32Array(this.faultCount).fill(NOT_MET));
      this.stateResponses.push(this.responseFor(fitting, tapPhase));
      this.ids.set(key, id);
    }
    return id;
  }

  private responseFor(fitting: InputFitting, tapPhase: Phase): number {
    if (!this.canExist(fitting)) return CANNOT_EXIST;
    const { input } = inputOf(this.site, fitting);
    const sign = inputSign(input, { arrow: input.arrow, leads: "straight" }) * (fitting.reversed ? -1 : 1);
    const { row, factor } = this.windowRow(fitting, tapPhase);
    const amplitude = sign * fitting.gain * factor;
    if (amplitude === 0) return 0;
    const key = `${row}|${amplitude.toPrecision(SAME_DIGITS)}`;
    let id = this.responseIds.get(key);
    if (id === undefined) {
      this.responseRows.push(row);
      id = this.responseAmplitudes.push(amplitude) - 1;
      this.responseIds.set(key, id);
    }
    return id;
  }

  private windowRow({ around }: InputFitting, tapPhase: Phase): ScaledRow {
    const key = JSON.stringify([around, tapPhase]);
    let known = this.windowRows.get(key);
    if (!known) {
      known = this.rowFor(this.siteResponses.row(around, tapPhase));
      this.windowRows.set(key, known);
    }
    return known;
  }

  /** Split a row into a scaled one, kept once, and the real factor that was taken out. */
  private rowFor(row: Float64Array): ScaledRow {
    const largest = row.reduce((max, part) => Math.max(max, Math.abs(part)), 0);
    const factor = row.find((part) => Math.abs(part) > largest * SAME_RESPONSE) ?? 0;
    if (factor === 0) return { row: 0, factor: 0 };
    const scaled = row.map((part) => part / factor);
    const key = Array.from(scaled, (part) => Math.round(part / SAME_RESPONSE)).join(",");
    let id = this.rowIds.get(key);
    if (id === undefined) {
      id = this.rows.push(scaled) - 1;
      this.rowIds.set(key, id);
    }
    return { row: id, factor };
  }
}

/** Combinations as they come, each filed under the hypothesis that it is equal to; an open-addressing hash in typed arrays. */
class HypothesisStore {
  private readonly faults: Int16Array;
  private readonly hypothesisOf: Int32Array;
  private readonly priors: Float64Array;
  private readonly inputResponses: Int32Array;
  private readonly weights: Float64Array;
  private readonly likeliest: Int32Array;
  private readonly table: Int32Array;
  private readonly probe: Int32Array;
  private combinations = 0;
  private hypotheses = 0;

  constructor(private readonly inputCount: number, capacity: number) {
    this.faults = new Int16Array(capacity * MAX_FAULTS).fill(NO_FAULT);
    this.hypothesisOf = new Int32Array(capacity);
    this.priors = new Float64Array(capacity);
    this.inputResponses = new Int32Array(capacity * inputCount);
    this.weights = new Float64Array(capacity);
    this.likeliest = new Int32Array(capacity);
    this.table = new Int32Array(2 ** Math.ceil(Math.log2(capacity + 1) + 1)).fill(-1);
    this.probe = new Int32Array(inputCount);
  }

  add(ids: Int32Array, states: InputStates, chosen: readonly number[], prior: number): void {
    for (let input = 0; input < this.inputCount; input++) {
      const response = states.responseOf(ids[input]!);
      if (response === CANNOT_EXIST) return;
      this.probe[input] = response;
    }
    const hypothesis = this.fileProbe();
    const combination = this.combinations++;
    for (let at = 0; at < chosen.length; at++) this.faults[combination * MAX_FAULTS + at] = chosen[at]!;
    this.hypothesisOf[combination] = hypothesis;
    this.priors[combination] = prior;
    if (this.weights[hypothesis] === 0 || prior > this.priors[this.likeliest[hypothesis]!]!) this.likeliest[hypothesis] = combination;
    this.weights[hypothesis]! += prior;
  }

  finish(states: InputStates): HypothesisSet {
    return {
      inputCount: this.inputCount, count: this.hypotheses, combinationCount: this.combinations,
      inputResponses: this.inputResponses, weights: this.weights, likeliest: this.likeliest,
      hypothesisOf: this.hypothesisOf, priors: this.priors, rows: states.rows,
      responseRows: Int32Array.from(states.responseRows), responseAmplitudes: Float64Array.from(states.responseAmplitudes),
      faultsOf: (combination) => Array.from(this.faults.subarray(combination * MAX_FAULTS, (combination + 1) * MAX_FAULTS))
        .filter((fault) => fault !== NO_FAULT),
    };
  }

  private fileProbe(): number {
    const mask = this.table.length - 1;
    let hash = 0;
    for (let input = 0; input < this.inputCount; input++) hash = Math.imul(hash ^ this.probe[input]!, 0x9e3779b1) ^ (hash >>> 15);
    for (let place = (hash ^ (hash >>> 13)) & mask; ; place = (place + 1) & mask) {
      const found = this.table[place]!;
      if (found === -1) {
        this.inputResponses.set(this.probe, this.hypotheses * this.inputCount);
        this.table[place] = this.hypotheses;
        return this.hypotheses++;
      }
      if (this.probeIs(found)) return found;
    }
  }

  private probeIs(hypothesis: number): boolean {
    const start = hypothesis * this.inputCount;
    for (let input = 0; input < this.inputCount; input++) {
      if (this.inputResponses[start + input] !== this.probe[input]) return false;
    }
    return true;
  }
}
