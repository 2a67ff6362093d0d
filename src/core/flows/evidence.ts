import { choleskyInPlace } from "@/core/flows/cholesky";
import {
  emptyBeginning,
  MAX_NAMED_SLOTS,
  orderReadings,
  scoredStep,
  type Beginning,
  type FactoredStep,
  type ScoredStep,
  type SeenStep,
} from "@/core/flows/factoredStep";
import type { HypothesisSet } from "@/core/flows/hypothesisSet";
import type { Noise } from "@/core/flows/testSheetSchema";

const LN_TWO_PI = Math.log(2 * Math.PI);
/** Room for shared beginnings; past it hypotheses are scored from the start, slower but the same. */
const MAX_SHARED_NUMBERS = 4_000_000;

/** Everything seen, and how many latents of lasting background its steps share (also when there is no step yet). */
export interface SeenEvidence {
  readonly seen: readonly SeenStep[];
  readonly lastingCount: number;
  readonly noise: Noise;
}

/** How well one hypothesis explains what was seen. */
export interface Evidence {
  readonly logEvidence: number;
  /** Squared Mahalanobis distance of the readings from what the hypothesis expects. */
  readonly chiSquare: number;
}

/** What some steps say under one hypothesis, before the background that they share is integrated out. */
export interface EvidencePart {
  readonly logDet: number;
  readonly squares: number;
  /** Lower triangle of I + Σ Wᵀ W, and Σ Wᵀ r. */
  readonly m: Float64Array;
  readonly v: Float64Array;
  readonly readingCount: number;
}

/** Nothing seen: the prior alone. */
function emptyPart(lastingCount: number): EvidencePart {
  const m = new Float64Array(lastingCount ** 2);
  for (let at = 0; at < lastingCount; at++) m[at * lastingCount + at] = 1;
  return { logDet: 0, squares: 0, m, v: new Float64Array(lastingCount), readingCount: 0 };
}

/** Steps that were looked at apart, together: given the lasting background they are independent, so they add up. */
function joined(a: EvidencePart, b: EvidencePart, lastingCount: number): EvidencePart {
  const m = a.m.map((value, at) => value + b.m[at]!);
  // Each brings the prior along; it counts once.
  for (let at = 0; at < lastingCount; at++) m[at * lastingCount + at]! -= 1;
  return {
    logDet: a.logDet + b.logDet,
    squares: a.squares + b.squares,
    m,
    v: a.v.map((value, at) => value + b.v[at]!),
    readingCount: a.readingCount + b.readingCount,
  };
}

/** For each part, all the others together: whoever changes one step works out only that one anew. */
export function otherParts(parts: readonly EvidencePart[], lastingCount: number): readonly EvidencePart[] {
  const before = [emptyPart(lastingCount)];
  for (const part of parts.slice(0, -1)) before.push(joined(before.at(-1)!, part, lastingCount));
  const after = [emptyPart(lastingCount)];
  for (const part of parts.slice(1).toReversed()) after.unshift(joined(part, after[0]!, lastingCount));
  return parts.map((_, at) => joined(before[at]!, after[at]!, lastingCount));
}

/** The evidence of two parts together: the same as of all their steps at once. */
export function jointEvidence(a: EvidencePart, b: EvidencePart, lastingCount: number): Evidence {
  const both = joined(a, b, lastingCount);
  return Number.isNaN(both.logDet) ? { logEvidence: -Infinity, chiSquare: Infinity } : integrated(both, lastingCount);
}

/** Integrate the lasting background out; `m` and `v` are used up. */
function integrated({ logDet, squares, m, v, readingCount }: EvidencePart, lastingCount: number): Evidence {
  const logDetM = choleskyInPlace(m, lastingCount);
  let explained = 0;
  for (let row = 0; row < lastingCount; row++) {
    let part = v[row]!;
    for (let k = 0; k < row; k++) part -= m[row * lastingCount + k]! * v[k]!;
    part /= m[row * lastingCount + row]!;
    v[row] = part;
    explained += part * part;
  }
  const chiSquare = Math.max(0, squares - explained);
  return { chiSquare, logEvidence: -0.5 * (chiSquare + logDet + logDetM + readingCount * LN_TWO_PI) };
}

/**
 * Scores hypotheses. Given the lasting background x, the steps are independent, so that each needs only an
 * inputs × inputs factor; x is then integrated out in information form, M = I + Σ Wᵀ W:
 *
 *   ln p(y) = −½ [ Σ(rᵀr + ln det C_s) − vᵀ M⁻¹ v + ln det M + N ln 2π ]
 *
 * with C_s the covariance of a step given x, r and W the whitened residual and response to x. Equal to the
 * one large Gaussian N(y; μ, Σ) over all readings (Woodbury identity), which the tests compute as reference.
 *
 * Most hypotheses differ from the plan in one to three inputs. The factor of the others is shared: inputs
 * that are as planned come first, and only the rows of the changed ones are worked out anew.
 */
export class EvidenceScorer {
  readonly readingCount: number;
  private readonly steps: readonly ScoredStep[];
  private readonly lastingCount: number;
  private readonly shared = new Map<number, Beginning>();
  private readonly sharedLimit: number;
  private readonly scratch: Beginning;
  /** The hypothesis at hand, by slot. */
  private readonly rows: Int32Array;
  private readonly amplitudes: Float64Array;
  private readonly m: Float64Array;
  private readonly v: Float64Array;

  constructor(
    private readonly set: HypothesisSet,
    { seen, lastingCount, noise }: SeenEvidence,
  ) {
    const used = seen.filter((step) => step.slots.length > 0);
    this.steps = used.map((step) => scoredStep(set, step, noise));
    this.readingCount = used.reduce((sum, step) => sum + step.slots.length, 0);
    this.lastingCount = lastingCount;
    this.rows = new Int32Array(set.inputCount);
    this.amplitudes = new Float64Array(set.inputCount);
    this.m = new Float64Array(this.lastingCount ** 2);
    this.v = new Float64Array(this.lastingCount);
    this.scratch = emptyBeginning(this.steps, this.lastingCount);
    const numbersEach = this.scratch.steps.reduce((sum, step) => sum + step.factor.length + step.response.length, 1);
    this.sharedLimit = Math.floor(MAX_SHARED_NUMBERS / numbersEach);
  }

  /** Evidence of one hypothesis of the set, by its number. */
  score(hypothesis: number): Evidence {
    const { logDet, squares } = this.gather(hypothesis);
    if (Number.isNaN(logDet)) return { logEvidence: -Infinity, chiSquare: Infinity };
    const { m, v, readingCount, lastingCount } = this;
    return integrated({ logDet, squares, m, v, readingCount }, lastingCount);
  }

  /** What the steps say under one hypothesis, to be joined with others. */
  part(hypothesis: number): EvidencePart {
    const totals = this.gather(hypothesis);
    return { ...totals, m: this.m.slice(), v: this.v.slice(), readingCount: this.readingCount };
  }

  /**
   * Information on the lasting background under a hypothesis: its precision M (row-major) and M · mean.
   * With nothing seen this is the prior.
   */
  information(hypothesis: number): { precision: Float64Array; weighted: Float64Array } {
    this.gather(hypothesis);
    return { precision: symmetric(this.m, this.lastingCount), weighted: this.v.slice() };
  }

  /** Fill m (lower triangle) and v for a hypothesis. */
  private gather(hypothesis: number): { logDet: number; squares: number } {
    const unchanged = this.load(hypothesis);
    const beginning = this.beginning(unchanged);
    this.m.set(beginning.m);
    this.v.set(beginning.v);
    const totals = { logDet: beginning.logDet, squares: beginning.squares };
    this.steps.forEach((step, at) => this.extend(step, beginning.steps[at]!, totals));
    return totals;
  }

  /** Look up what each slot makes of the powers; returns the name of the set of slots that are as planned. */
  private load(hypothesis: number): number {
    const { set, rows, amplitudes } = this;
    const { inputCount, inputResponses } = set;
    let unchanged = 0;
    for (let slot = 0; slot < inputCount; slot++) {
      const response = inputResponses[hypothesis * inputCount + slot]!;
      rows[slot] = set.responseRows[response]!;
      amplitudes[slot] = set.responseAmplitudes[response]!;
      if (slot < MAX_NAMED_SLOTS && response === inputResponses[slot]) unchanged += 2 ** slot;
    }
    return unchanged;
  }

  /** The shared part of all hypotheses in which these slots are as planned, worked out when first met. */
  private beginning(unchanged: number): Beginning {
    const known = this.shared.get(unchanged);
    if (known) return known;
    if (this.shared.size >= this.sharedLimit) {
      this.scratch.steps.forEach((step, at) => orderReadings(this.steps[at]!, step, 0));
      return this.scratch;
    }
    const made = emptyBeginning(this.steps, this.lastingCount);
    this.m.set(made.m);
    this.v.set(made.v);
    this.steps.forEach((step, at) => {
      const factored = made.steps[at]!;
      const count = orderReadings(step, factored, unchanged);
      this.extend(step, factored, made, 0, count);
      factored.done = count;
    });
    made.m.set(this.m);
    made.v.set(this.v);
    this.shared.set(unchanged, made);
    return made;
  }

  /**
   * Add rows to a step's factor, from those that are done to `end`, with their residual and response to x,
   * and their information to m and v. Long, because it is the loop that a diagnosis spends its time in: one pass
   * over the row, and no array made on the way.
   */
  private extend(
    step: ScoredStep,
    factored: FactoredStep,
    totals: { logDet: number; squares: number },
    start = factored.done,
    end = step.slots.length,
  ): void {
    const { rows, amplitudes, m, v, lastingCount } = this;
    const { factor, residual, response, order: slotOrder } = factored;
    const { tables, width } = step;
    const { passing, passingCount, lasting } = tables;
    let pivots = 1;
    for (let row = start; row < end; row++) {
      const at = slotOrder[row]!;
      const slot = step.slots[at]!;
      const amplitude = amplitudes[slot]!;
      const passingAt = rows[slot]! * passingCount;
      const lastingAt = rows[slot]! * lastingCount;
      const responseAt = row * lastingCount;
      let rest = step.readingsW[at]! - amplitude * tables.mean[rows[slot]!]!;
      for (let k = 0; k < lastingCount; k++) response[responseAt + k] = amplitude * lasting[lastingAt + k]!;
      let pivot = step.noiseVariance[at]!;
      for (let k = 0; k < passingCount; k++) pivot += (amplitude * passing[passingAt + k]!) ** 2;
      for (let column = 0; column < row; column++) {
        const otherSlot = step.slots[slotOrder[column]!]!;
        const otherAt = rows[otherSlot]! * passingCount;
        let sum = 0;
        for (let k = 0; k < passingCount; k++) sum += passing[passingAt + k]! * passing[otherAt + k]!;
        sum *= amplitude * amplitudes[otherSlot]!;
        for (let k = 0; k < column; k++) sum -= factor[row * width + k]! * factor[column * width + k]!;
        if (sum === 0) {
          factor[row * width + column] = 0;
          continue;
        }
        const entry = sum / factor[column * width + column]!;
        factor[row * width + column] = entry;
        pivot -= entry * entry;
        rest -= entry * residual[column]!;
        for (let k = 0; k < lastingCount; k++)
          response[responseAt + k]! -= entry * response[column * lastingCount + k]!;
      }
      if (!(pivot > 0)) {
        totals.logDet = NaN;
        return;
      }
      const diagonal = Math.sqrt(pivot);
      pivots *= pivot;
      factor[row * width + row] = diagonal;
      rest /= diagonal;
      residual[row] = rest;
      totals.squares += rest * rest;
      for (let i = 0; i < lastingCount; i++) {
        const wi = (response[responseAt + i]! /= diagonal);
        if (wi === 0) continue;
        v[i]! += wi * rest;
        for (let j = 0; j <= i; j++) m[i * lastingCount + j]! += wi * response[responseAt + j]!;
      }
      // One logarithm for several rows, taken before their product can overflow.
      if (pivots > 1e150 || pivots < 1e-150) {
        totals.logDet += Math.log(pivots);
        pivots = 1;
      }
    }
    totals.logDet += Math.log(pivots);
  }
}

function symmetric(lower: Float64Array, n: number): Float64Array {
  const full = new Float64Array(n * n);
  for (let i = 0; i < n; i++) for (let j = 0; j <= i; j++) full[i * n + j] = full[j * n + i] = lower[i * n + j]!;
  return full;
}
