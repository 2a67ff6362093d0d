import { choleskyInPlace } from "@/core/flows/cholesky";
import type { HypothesisSet } from "@/core/flows/hypotheses";
import { respond, type StepPowers } from "@/core/flows/powerModel";
import type { Noise } from "@/core/flows/testSheetSchema";

const LN_TWO_PI = Math.log(2 * Math.PI);

/** What was seen in one step: input slots (plan order) and their readings in watts, aligned. */
export interface SeenStep {
  readonly powers: StepPowers;
  readonly slots: readonly number[];
  readonly readingsW: readonly number[];
}

/** How well one hypothesis explains what was seen. */
export interface Evidence {
  readonly logEvidence: number;
  /** Squared Mahalanobis distance of the readings from what the hypothesis expects. */
  readonly chiSquare: number;
}

/**
 * Scores hypotheses. Given the lasting background x, the steps are independent, so that each needs only an
 * inputs × inputs factor; x is then integrated out in information form, M = I + Σ Wᵀ W:
 *
 *   ln p(y) = −½ [ Σ(rᵀr + ln det C_s) − vᵀ M⁻¹ v + ln det M + N ln 2π ]
 *
 * with C_s the covariance of a step given x, r and W the whitened residual and response to x. Equal to the
 * one large Gaussian N(y; μ, Σ) over all readings (Woodbury identity), which the tests compute as reference.
 */
export class EvidenceScorer {
  readonly readingCount: number;
  private readonly lastingCount: number;
  private readonly steps: readonly StepTables[];
  private readonly m: Float64Array;
  private readonly v: Float64Array;
  private readonly c: Float64Array;
  private readonly w: Float64Array;
  private readonly r: Float64Array;

  constructor(private readonly set: HypothesisSet, seen: readonly SeenStep[], noise: Noise) {
    const used = seen.filter((step) => step.slots.length > 0);
    this.steps = used.map((step) => stepTables(set.rows, step, noise));
    this.readingCount = used.reduce((sum, step) => sum + step.slots.length, 0);
    this.lastingCount = seen[0]?.powers.lasting.length ?? 0;
    const widest = used.reduce((max, step) => Math.max(max, step.slots.length), 0);
    this.m = new Float64Array(this.lastingCount ** 2);
    this.v = new Float64Array(this.lastingCount);
    this.c = new Float64Array(widest ** 2);
    this.w = new Float64Array(widest * this.lastingCount);
    this.r = new Float64Array(widest);
  }

  /** Evidence of one hypothesis of the set, by its number. */
  score(hypothesis: number): Evidence {
    const { lasting, logDetSteps, residual } = this.gather(hypothesis);
    if (Number.isNaN(logDetSteps)) return { logEvidence: -Infinity, chiSquare: Infinity };
    const logDetM = choleskyInPlace(this.m, lasting);
    let explained = 0;
    for (let row = 0; row < lasting; row++) {
      let part = this.v[row]!;
      for (let k = 0; k < row; k++) part -= this.m[row * lasting + k]! * this.v[k]!;
      part /= this.m[row * lasting + row]!;
      this.v[row] = part;
      explained += part * part;
    }
    const chiSquare = Math.max(0, residual - explained);
    return { chiSquare, logEvidence: -0.5 * (chiSquare + logDetSteps + logDetM + this.readingCount * LN_TWO_PI) };
  }

  /**
   * Information on the lasting background under a hypothesis: its precision M (row-major) and M · mean.
   * With nothing seen this is the prior.
   */
  information(hypothesis: number): { precision: Float64Array; weighted: Float64Array } {
    this.gather(hypothesis);
    return { precision: symmetric(this.m, this.lastingCount), weighted: this.v.slice() };
  }

  private gather(hypothesis: number): { lasting: number; logDetSteps: number; residual: number } {
    const lasting = this.lastingCount;
    this.m.fill(0);
    this.v.fill(0);
    for (let at = 0; at < lasting; at++) this.m[at * lasting + at] = 1;
    let logDetSteps = 0;
    let residual = 0;
    for (const step of this.steps) {
      const count = step.slots.length;
      this.fillStep(hypothesis, step);
      logDetSteps += choleskyInPlace(this.c, count);
      residual += this.whiten(count);
      this.addInformation(count);
    }
    return { lasting, logDetSteps, residual };
  }

  /** Covariance given x, residual and response to x of one step under a hypothesis. */
  private fillStep(hypothesis: number, step: StepTables): void {
    const { set, c, w, r, lastingCount } = this;
    const count = step.slots.length;
    const start = hypothesis * set.inputCount;
    for (let i = 0; i < count; i++) {
      const response = set.responses[set.inputResponses[start + step.slots[i]!]!]!;
      const amplitude = response.amplitude;
      const passing = step.passing[response.row]!;
      const lasting = step.lasting[response.row]!;
      r[i] = step.readingsW[i]! - amplitude * step.mean[response.row]!;
      for (let k = 0; k < lastingCount; k++) w[i * lastingCount + k] = amplitude * lasting[k]!;
      for (let j = 0; j <= i; j++) {
        const other = set.responses[set.inputResponses[start + step.slots[j]!]!]!;
        const otherPassing = step.passing[other.row]!;
        let sum = 0;
        for (let k = 0; k < passing.length; k++) sum += passing[k]! * otherPassing[k]!;
        c[i * count + j] = amplitude * other.amplitude * sum;
      }
      c[i * count + i]! += step.noiseVariance[i]!;
    }
  }

  /** L⁻¹ on the residual and on the response to x; returns the squared length of the first. */
  private whiten(count: number): number {
    const { c, w, r, lastingCount } = this;
    let squares = 0;
    for (let row = 0; row < count; row++) {
      for (let k = 0; k < row; k++) {
        const factor = c[row * count + k]!;
        if (factor === 0) continue;
        r[row]! -= factor * r[k]!;
        for (let at = 0; at < lastingCount; at++) w[row * lastingCount + at]! -= factor * w[k * lastingCount + at]!;
      }
      const pivot = 1 / c[row * count + row]!;
      r[row]! *= pivot;
      for (let at = 0; at < lastingCount; at++) w[row * lastingCount + at]! *= pivot;
      squares += r[row]! * r[row]!;
    }
    return squares;
  }

  private addInformation(count: number): void {
    const { m, v, w, r, lastingCount } = this;
    for (let input = 0; input < count; input++) {
      const start = input * lastingCount;
      for (let i = 0; i < lastingCount; i++) {
        const wi = w[start + i]!;
        if (wi === 0) continue;
        v[i]! += wi * r[input]!;
        for (let j = 0; j <= i; j++) m[i * lastingCount + j]! += wi * w[start + j]!;
      }
    }
  }
}

/** What the distinct response rows make of a step's powers, worked out once for all hypotheses. */
export interface StepTables {
  readonly slots: readonly number[];
  readonly readingsW: readonly number[];
  readonly noiseVariance: Float64Array;
  readonly mean: Float64Array;
  readonly lasting: readonly Float64Array[];
  readonly passing: readonly Float64Array[];
}

/** Tabulate a step for every distinct row; see `StepTables`. */
export function stepTables(rows: readonly Float64Array[], step: SeenStep, noise: Noise): StepTables {
  const { mean, lasting, passing } = step.powers;
  return {
    slots: step.slots, readingsW: step.readingsW,
    noiseVariance: Float64Array.from(step.readingsW, (reading) => readingVariance(noise, reading)),
    mean: Float64Array.from(rows, (row) => respond(row, mean)),
    lasting: rows.map((row) => Float64Array.from(lasting, (powers) => respond(row, powers))),
    passing: rows.map((row) => Float64Array.from(passing, (powers) => respond(row, powers))),
  };
}

/** @example readingVariance({ absoluteW: 8, relative: 0.01 }, 1000) // 164 W² */
export function readingVariance(noise: Noise, readingW: number): number {
  return noise.absoluteW ** 2 + (noise.relative * readingW) ** 2;
}

function symmetric(lower: Float64Array, n: number): Float64Array {
  const full = new Float64Array(n * n);
  for (let i = 0; i < n; i++) for (let j = 0; j <= i; j++) full[i * n + j] = full[j * n + i] = lower[i * n + j]!;
  return full;
}
