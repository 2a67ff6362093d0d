import { choleskyInPlace, solveLowerInPlace } from "@/core/flows/cholesky";
import type { HypothesisSet } from "@/core/flows/hypothesisSet";
import { respond, stepPowers, type StepPowers } from "@/core/flows/powerModel";
import type { TestProblem } from "@/core/flows/testProblem";
import type { KnownDevice } from "@/core/flows/testSheetSchema";

/** Numbers of all covariances that are kept at once. */
const MOST_KEPT = 8_000_000;

/** What the readings of some steps would be under a hypothesis: a normal distribution over all of them. */
export interface ExpectedSheet {
  readonly mean: Float64Array;
  /** Lower factor of the covariance, row-major, and ln of its determinant. */
  readonly lower: Float64Array;
  readonly logDet: number;
}

/**
 * The readings that a hypothesis expects in steps that nobody took yet: mean and covariance over every input of every
 * step, with the background that lasts through all of them, drift, tolerances and noise.
 */
export class SheetExpecter {
  private readonly powers: readonly StepPowers[];
  private readonly known = new Map<string, ExpectedSheet>();
  private keptNumbers = 0;

  /** @param steps What is known of the devices in each. */
  constructor(
    private readonly problem: TestProblem,
    private readonly set: HypothesisSet,
    steps: readonly (readonly KnownDevice[])[],
  ) {
    this.powers = steps.map((devices) => stepPowers(problem.responses, problem.background, devices));
  }

  /** What a hypothesis expects of some of the steps. */
  of(hypothesis: number, steps: readonly number[]): ExpectedSheet {
    const key = `${hypothesis} ${steps.join()}`;
    const before = this.known.get(key);
    if (before) return before;
    const { noise } = this.problem.sheet;
    const inputs = this.set.inputCount;
    const size = inputs * steps.length;
    const mean = new Float64Array(size);
    const latents: Float64Array[] = [];
    for (const [at, step] of steps.entries()) {
      const { mean: meanPowers, lasting } = this.powers[step]!;
      for (let input = 0; input < inputs; input++)
        mean[at * inputs + input] = this.answer(hypothesis, input, meanPowers);
      lasting.forEach((power, which) => {
        latents[which] ??= new Float64Array(size);
        for (let input = 0; input < inputs; input++)
          latents[which][at * inputs + input] = this.answer(hypothesis, input, power);
      });
    }
    for (const [at, step] of steps.entries())
      for (const power of this.powers[step]!.passing) {
        const own = new Float64Array(size);
        for (let input = 0; input < inputs; input++) own[at * inputs + input] = this.answer(hypothesis, input, power);
        latents.push(own);
      }
    const lower = new Float64Array(size * size);
    for (const own of latents)
      for (let a = 0; a < size; a++) {
        if (own[a] === 0) continue;
        for (let b = 0; b <= a; b++) lower[a * size + b]! += own[a]! * own[b]!;
      }
    for (let a = 0; a < size; a++) lower[a * size + a]! += noise.absoluteW ** 2 + (noise.relative * mean[a]!) ** 2;
    const made = { mean, lower, logDet: choleskyInPlace(lower, size) };
    // What is kept is bounded: a wide site with many steps would fill the memory.
    this.keptNumbers += lower.length;
    if (this.keptNumbers > MOST_KEPT) {
      this.known.clear();
      this.keptNumbers = lower.length;
    }
    this.known.set(key, made);
    return made;
  }

  private answer(hypothesis: number, input: number, powers: Float64Array): number {
    const response = this.set.inputResponses[hypothesis * this.set.inputCount + input]!;
    const amplitude = this.set.responseAmplitudes[response]!;
    return amplitude === 0 ? 0 : amplitude * respond(this.set.rows[this.set.responseRows[response]!]!, powers);
  }
}

/**
 * How surely readings that come from one explanation tell it from another: the expected ln ratio of their evidence,
 * ½ (tr Σ₁⁻¹Σ₀ + (μ₁ − μ₀)ᵀ Σ₁⁻¹ (μ₁ − μ₀) − n + ln det Σ₁ − ln det Σ₀) (Kullback and Leibler).
 *
 * For example: two readings that differ by four standard deviations: 8.
 */
export function expectedEvidence(truth: ExpectedSheet, other: ExpectedSheet): number {
  const size = truth.mean.length;
  const miss = Float64Array.from(truth.mean, (value, at) => value - other.mean[at]!);
  solveLowerInPlace(other.lower, size, miss, 1);
  let sum = -size + other.logDet - truth.logDet;
  for (const part of miss) sum += part * part;
  // tr Σ₁⁻¹Σ₀ = the squares of L₁⁻¹L₀.
  const product = new Float64Array(size * size);
  for (let row = 0; row < size; row++)
    for (let column = 0; column <= row; column++) product[row * size + column] = truth.lower[row * size + column]!;
  solveLowerInPlace(other.lower, size, product, size);
  for (const part of product) sum += part * part;
  return 0.5 * sum;
}
