import { choleskyInPlace, solveLowerInPlace, solveUpperInPlace } from "@/core/flows/cholesky";
import { faultText } from "@/core/flows/cure";
import type { EvidenceScorer } from "@/core/flows/evidence";
import { readingVariance, stepTables, type StepTables } from "@/core/flows/stepTables";
import type { HypothesisSet } from "@/core/flows/hypothesisSet";
import { possibleTests, type PossibleTest } from "@/core/flows/possibleTests";
import { normalPoints } from "@/core/flows/normalPoints";
import { stepPowers, type StepPowers } from "@/core/flows/powerModel";
import type { TestProblem } from "@/core/flows/testProblem";
import type { KnownDevice } from "@/core/flows/testSheetSchema";
import { inputTag } from "@/core/site/inputTag";
import type { Phase } from "@/core/phase";
import type { Slices } from "@/core/slices";
import { powerText } from "@/core/units";

/** Explanations that a test is weighed against; the tail beyond them is too unlikely to choose by. */
export const MAX_WEIGHED = 24;
const WEIGHED_SHARE = 0.995;
const POINTS = 32;
const LEAST_GAIN_BITS = 0.005;
const LN_2 = Math.log(2);
/** A density this much (ln) below another adds nothing to their sum. */
const NEGLIGIBLE_LOG = 25;

/** A step that the technician could do next, and how much it would tell. */
export interface NextTest {
  readonly label: string;
  readonly node: string | null;
  readonly phase: Phase | null;
  readonly powerW: number;
  /** Expected information about which explanation is true, in bits. */
  readonly gainBits: number;
  /** The part of what is still open that it would settle, from 0 to 1: the gain over what is missing to certainty. */
  readonly settles: number;
  readonly why: string;
  /** What is on in that step, ready to be added to the sheet. A load that the plan has no node for is not in it. */
  readonly devices: readonly KnownDevice[];
}

/** An explanation by its index, with its probability from 0 to 1. */
export interface RankedHypothesis {
  readonly id: number;
  readonly probability: number;
}

/** What a hypothesis expects all inputs to read in a test: mean and lower Cholesky factor of the covariance. */
interface Expected {
  readonly mean: Float64Array;
  readonly factor: Float64Array;
  readonly logDet: number;
}

/**
 * Rank what could be switched next by what it would tell: the mutual information between which explanation
 * is true and what every input would read, Σ_h p_h E_{y|h}[log₂ p(y|h) / Σ_k p_k p(y|k)], each p(y|h)
 * Gaussian given what was read so far. The expectation is taken at fixed, evenly spread points (see
 * `normalPoints`), so that the same sheet always gives the same advice.
 *
 * In slices, one a test.
 *
 * @returns Best first; empty when no test tells anything.
 */
export function* nextTests(
  problem: TestProblem,
  set: HypothesisSet,
  scorer: EvidenceScorer,
  ranked: readonly RankedHypothesis[],
): Slices<readonly NextTest[]> {
  const weighed = leading(ranked);
  const beliefs = weighed.map(({ id }) => backgroundBelief(scorer, id));
  const points = normalPoints(POINTS, set.inputCount);
  const openBits = entropyBits(weighed.map(({ probability }) => probability));
  const tests: NextTest[] = [];
  for (const test of possibleTests(problem)) {
    yield;
    const tables = testTables(problem, set, test);
    const expected = weighed.map(({ id }, at) => expectation(set, id, tables, beliefs[at]!, problem));
    const gainBits = informationBits(weighed, expected, points, set.inputCount);
    const settles = openBits > 0 ? Math.min(1, gainBits / openBits) : 0;
    tests.push({ ...published(test), gainBits, settles, why: reason(problem, set, weighed, expected) });
  }
  return tests.filter((test) => test.gainBits > LEAST_GAIN_BITS).sort((a, b) => b.gainBits - a.gainBits);
}

/** What is missing to certainty, bits: −Σ p log₂ p. */
export function entropyBits(probabilities: readonly number[]): number {
  return probabilities.reduce((sum, share) => sum - (share > 0 ? share * Math.log2(share) : 0), 0);
}

/**
 * How much of what is open a test would settle, in words.
 *
 * For example: 0.87: `would settle 9 of 10 of what is still open`.
 */
export function settlesText(settles: number): string {
  const tenths = Math.round(10 * settles);
  if (tenths >= 10) return "would settle nearly all that is still open";
  if (tenths === 0) return "would settle little of what is still open";
  return `would settle ${tenths} of 10 of what is still open`;
}

function leading(ranked: readonly RankedHypothesis[]): readonly RankedHypothesis[] {
  const chosen: RankedHypothesis[] = [];
  let share = 0;
  for (const hypothesis of ranked) {
    if (chosen.length === MAX_WEIGHED || share >= WEIGHED_SHARE) break;
    chosen.push(hypothesis);
    share += hypothesis.probability;
  }
  return chosen.map(({ id, probability }) => ({ id, probability: probability / share }));
}

interface Belief {
  readonly mean: Float64Array;
  /** L⁻¹ of the precision's factor is applied to responses, so the covariance is never formed. */
  readonly factor: Float64Array;
}

function backgroundBelief(scorer: EvidenceScorer, hypothesis: number): Belief {
  const { precision, weighted } = scorer.information(hypothesis);
  const n = weighted.length;
  choleskyInPlace(precision, n);
  solveLowerInPlace(precision, n, weighted, 1);
  solveUpperInPlace(precision, n, weighted, 1);
  return { mean: weighted, factor: precision };
}

function testTables(problem: TestProblem, set: HypothesisSet, test: PossibleTest): StepTables {
  const powers = stepPowers(problem.responses, problem.background, test.devices);
  return stepTables(set.rows, test.extra ? withExtra(powers, test.extra) : powers);
}

function withExtra(powers: StepPowers, extra: NonNullable<PossibleTest["extra"]>): StepPowers {
  const mean = powers.mean.slice();
  mean[2 * extra.column]! += extra.powerW;
  const tolerance = new Float64Array(mean.length);
  tolerance[2 * extra.column] = extra.toleranceW;
  return { ...powers, mean, passing: [...powers.passing, tolerance] };
}

function expectation(
  set: HypothesisSet,
  hypothesis: number,
  tables: StepTables,
  belief: Belief,
  problem: TestProblem,
): Expected {
  const n = set.inputCount;
  const lasting = tables.lastingCount;
  const passing = tables.passingCount;
  const mean = new Float64Array(n);
  const toBackground = new Float64Array(lasting * n);
  const toPassing = new Float64Array(passing * n);
  for (let input = 0; input < n; input++) {
    const response = set.inputResponses[hypothesis * n + input]!;
    const row = set.responseRows[response]!;
    const amplitude = set.responseAmplitudes[response]!;
    let sum = tables.mean[row]!;
    for (let k = 0; k < lasting; k++) {
      const toLatent = tables.lasting[row * lasting + k]!;
      sum += toLatent * belief.mean[k]!;
      toBackground[k * n + input] = amplitude * toLatent;
    }
    for (let k = 0; k < passing; k++) toPassing[k * n + input] = amplitude * tables.passing[row * passing + k]!;
    mean[input] = amplitude * sum;
  }
  solveLowerInPlace(belief.factor, lasting, toBackground, n);
  const factor = new Float64Array(n * n);
  for (let i = 0; i < n; i++) {
    for (let j = 0; j <= i; j++) {
      let sum = 0;
      for (let k = 0; k < passing; k++) sum += toPassing[k * n + i]! * toPassing[k * n + j]!;
      for (let k = 0; k < lasting; k++) sum += toBackground[k * n + i]! * toBackground[k * n + j]!;
      factor[i * n + j] = sum;
    }
    factor[i * n + i]! += readingVariance(problem.sheet.noise, mean[i]!);
  }
  return { mean, factor, logDet: choleskyInPlace(factor, n) };
}

function informationBits(
  weighed: readonly RankedHypothesis[],
  expected: readonly Expected[],
  points: readonly Float64Array[],
  n: number,
): number {
  const y = new Float64Array(n);
  const work = new Float64Array(n);
  let bits = 0;
  expected.forEach((own, at) => {
    let sum = 0;
    for (const point of points) {
      for (let i = 0; i < n; i++) {
        y[i] = own.mean[i]!;
        for (let k = 0; k <= i; k++) y[i]! += own.factor[i * n + k]! * point[k]!;
      }
      const ownLog = logDensity(own, y, work);
      let mixture = 0;
      expected.forEach((other, index) => {
        mixture += weighed[index]!.probability * Math.exp(logDensity(other, y, work, ownLog - NEGLIGIBLE_LOG) - ownLog);
      });
      sum -= Math.log(mixture);
    }
    bits += (weighed[at]!.probability * sum) / points.length / LN_2;
  });
  return Math.max(0, bits);
}

/** ln of a Gaussian density without the constant that all share; −∞ as soon as it is sure to fall below `floor`. */
function logDensity(
  { mean, factor, logDet }: Expected,
  y: Float64Array,
  work: Float64Array,
  floor = -Infinity,
): number {
  const n = mean.length;
  const most = -2 * floor - logDet;
  let squares = 0;
  for (let i = 0; i < n; i++) {
    let part = y[i]! - mean[i]!;
    for (let k = 0; k < i; k++) part -= factor[i * n + k]! * work[k]!;
    part /= factor[i * n + i]!;
    work[i] = part;
    squares += part * part;
    if (squares > most) return -Infinity;
  }
  return -0.5 * (squares + logDet);
}

function reason(
  problem: TestProblem,
  set: HypothesisSet,
  weighed: readonly RankedHypothesis[],
  expected: readonly Expected[],
): string {
  const best = clearestPair(weighed, expected);
  if (!best) return "tells nothing new";
  const { first, second, input } = best;
  const texts = [first, second].map((at) => explanationText(problem, set, weighed[at]!.id));
  const at = problem.inputs[input]!;
  const values = [first, second].map((index) => powerText(expected[index]!.mean[input]!));
  const where = inputTag(problem.site, at.meter, at.input);
  return `separates "${texts[0]}" (${where} would read ${values[0]}) from "${texts[1]}" (${values[1]})`;
}

/** The likeliest pair of explanations that this test tells apart, and the input that shows it best. */
function clearestPair(weighed: readonly RankedHypothesis[], expected: readonly Expected[]) {
  const [first, ...others] = expected;
  if (!first) return undefined;
  const candidates = others.map((other, at) => {
    const distances = Array.from(first.mean, (value, input) => {
      const spread = marginalSd(first, input) + marginalSd(other, input);
      const distance = Math.abs(value - other.mean[input]!) / spread;
      // Powers so large that they cancel to nothing known tell no explanations apart.
      return Number.isNaN(distance) ? 0 : distance;
    });
    const input = distances.indexOf(Math.max(...distances));
    return { first: 0, second: at + 1, input, worth: weighed[at + 1]!.probability * Math.min(distances[input]!, 3) };
  });
  return candidates.sort((a, b) => b.worth - a.worth)[0];
}

function marginalSd({ factor, mean }: Expected, input: number): number {
  const n = mean.length;
  let variance = 0;
  for (let k = 0; k <= input; k++) variance += factor[input * n + k]! ** 2;
  return Math.sqrt(variance);
}

function explanationText(problem: TestProblem, set: HypothesisSet, hypothesis: number): string {
  const faults = set.faultsOf(set.likeliest[hypothesis]!);
  if (faults.length === 0) return "as planned";
  const texts = faults.map((at) => faultText(problem.site, problem.candidates[at]!.fault));
  return texts.map(uncapital).join(", and ");
}

/** In the middle of a sentence; the name of a CT keeps its letter. */
function uncapital(text: string): string {
  return /^[A-Z][a-z]/.test(text) ? text.charAt(0).toLowerCase() + text.slice(1) : text;
}

function published(test: PossibleTest): Omit<NextTest, "gainBits" | "settles" | "why"> {
  const { label, node, phase, powerW, devices } = test;
  return { label, node, phase, powerW, devices };
}
