import { CANNOT_EXIST, type InputStates } from "@/core/flows/inputStates";
import type { HypothesisSet } from "@/core/flows/hypothesisSet";

/** Faults in one combination at most; the storage has a slot for each. */
export const MAX_FAULTS = 3;

const NO_FAULT = -1;

/**
 * Combinations as they come, each filed under the hypothesis that it is equal to; an open-addressing hash in typed
 * arrays.
 */
export class HypothesisStore {
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

  constructor(
    private readonly inputCount: number,
    capacity: number,
  ) {
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
    if (this.weights[hypothesis] === 0 || prior > this.priors[this.likeliest[hypothesis]!]!)
      this.likeliest[hypothesis] = combination;
    this.weights[hypothesis]! += prior;
  }

  finish(states: InputStates): HypothesisSet {
    return {
      inputCount: this.inputCount,
      count: this.hypotheses,
      combinationCount: this.combinations,
      inputResponses: this.inputResponses,
      weights: this.weights,
      likeliest: this.likeliest,
      hypothesisOf: this.hypothesisOf,
      priors: this.priors,
      rows: states.rows,
      responseRows: Int32Array.from(states.responseRows),
      responseAmplitudes: Float64Array.from(states.responseAmplitudes),
      faultsOf: (combination) =>
        Array.from(this.faults.subarray(combination * MAX_FAULTS, (combination + 1) * MAX_FAULTS)).filter(
          (fault) => fault !== NO_FAULT,
        ),
    };
  }

  private fileProbe(): number {
    const mask = this.table.length - 1;
    let hash = 0;
    for (let input = 0; input < this.inputCount; input++)
      hash = Math.imul(hash ^ this.probe[input]!, 0x9e3779b1) ^ (hash >>> 15);
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
