import { z } from "zod";
import { chiSquareSurvival } from "@/core/flows/chiSquare";
import { scoringCostMs } from "@/core/flows/diagnosisCost";
import { cures } from "@/core/flows/cure";
import { EvidenceScorer } from "@/core/flows/evidence";
import { applyFault, plannedFitting, type SiteFitting } from "@/core/flows/fitting";
import type { Fault } from "@/core/flows/faults";
import { combinationCount, hypothesisSet } from "@/core/flows/hypotheses";
import type { HypothesisSet } from "@/core/flows/hypothesisSet";
import { MAX_WEIGHED, nextTests, type NextTest } from "@/core/flows/nextTests";
import { testProblem, type TestProblem } from "@/core/flows/testProblem";
import { testSheetProblems, testSheetShape, type TestSheet } from "@/core/flows/testSheetSchema";
import { refineWith } from "@/core/problem";
import { inOneGo, withProgress, type Slices } from "@/core/slices";
import type { Meter, Site, WindowEntry } from "@/core/site/planSchema";
import { siteSchema } from "@/core/site/siteSchema";

/** A verdict is given only above this probability. */
export const CERTAIN_ABOVE = 0.9;
/** A best explanation less likely to miss by so much than this does not explain. */
export const NOT_EXPLAINED_BELOW_P = 0.001;
/** More combinations than this are refused: they would take longer than anybody waits on a ladder. */
export const MAX_COMBINATIONS = 2_000_000;

const MAX_SHOWN_HYPOTHESES = 12;
const MAX_SHOWN_ALTERNATIVES = 20;
const MOST_RANKED = Math.max(MAX_SHOWN_HYPOTHESES, MAX_WEIGHED);
/** A slice takes about so long at most, ms, so that whoever cancels is heard; and at most so many hypotheses. */
const SLICE_MS = 15;
const SLICE = 2_000;
const RANKED_A_SLICE = 200_000;

/** What the route `diagnose` takes: a site and its test sheet. */
export const diagnoseRequestSchema = z
  .object({ site: siteSchema, ...testSheetShape.shape })
  .superRefine(refineWith(({ site, ...sheet }) => testSheetProblems(sheet, site)));

/** What the readings come to. */
export type Verdict = "as-planned" | "faults-found" | "ambiguous" | "not-explained";

/** One explanation of the readings, with its probability from 0 to 1. */
export interface Hypothesis {
  readonly probability: number;
  readonly faults: readonly Fault[];
  readonly fitting: {
    readonly inputs: readonly {
      meter: string;
      input: number;
      around: readonly WindowEntry[];
      reversed: boolean;
      gain: number;
    }[];
    readonly taps: readonly Readonly<Record<string, string>>[];
  };
  /** Other combinations of faults that read the same whatever the devices do, likeliest first. */
  readonly alternatives: readonly (readonly Fault[])[];
  /** Squared distance of the readings from what this expects, over their number: about 1 when it fits. */
  readonly residual: number;
  readonly cure: readonly string[];
}

/** Explanations, likeliest first, the verdict, and the tests that would tell them apart. */
export interface Diagnosis {
  readonly verdict: Verdict;
  readonly hypotheses: readonly Hypothesis[];
  readonly nextTests: readonly NextTest[];
  /** Combinations of faults that were looked at. */
  readonly scored: number;
  /** Chance of a miss as large as the best explanation's, were it true. */
  readonly fitProbability: number;
}

/** A diagnosis, or why it was not begun. */
export type DiagnosisOutcome =
  | { readonly kind: "diagnosed"; readonly diagnosis: Diagnosis }
  | { readonly kind: "too-many"; readonly combinations: number; readonly limit: number }
  /** More computing than was allowed for. */
  | { readonly kind: "too-costly"; readonly costMs: number };

/** How far a diagnosis in slices has come. */
export interface DiagnosisProgress {
  readonly done: number;
  readonly of: number;
}

/**
 * Which faults in the fitting explain what was seen, and what to switch on next to find out.
 *
 * Every combination of up to `maxFaults` faults is a hypothesis with a prior; given one, each reading is
 * linear in device powers that are Gaussian, so its evidence is exact: ln N(readings; μ, Σ). Posterior
 * ∝ (sum of the priors of all equivalents) × evidence.
 *
 * For example: Input 1 reads −2410 W with a 2200 W kettle on and solar off, and −195 W without: `faults-found`, best
 * explanation `reversed`, cure "Turn the clamp of input 1 round, or swap its two leads".
 *
 * @returns The ranked explanations, or `too-many` when there are over `MAX_COMBINATIONS`.
 */
export function diagnose(site: Site, sheet: TestSheet): DiagnosisOutcome {
  return inOneGo(diagnoseInSlices(site, sheet));
}

/**
 * `diagnose` as a generator that yields its progress, so that a worker or server can breathe and stop in between.
 *
 * @param budgetMs Whoever has no more time than this is told so once it is known how many explanations there are.
 */
export function* diagnoseInSlices(
  site: Site,
  sheet: TestSheet,
  budgetMs = Infinity,
): Slices<DiagnosisOutcome, DiagnosisProgress> {
  const problem = testProblem(site, sheet);
  const combinations = combinationCount(problem.candidates.length, sheet.maxFaults);
  if (combinations > MAX_COMBINATIONS) return { kind: "too-many", combinations, limit: MAX_COMBINATIONS };
  yield { done: 0, of: combinations };
  const grouping = hypothesisSet(site, problem.candidates, sheet.maxFaults, problem.responses);
  const set = yield* withProgress(grouping, { done: 0, of: combinations });
  const costMs = scoringCostMs(site, sheet, set.count);
  if (costMs > budgetMs) return { kind: "too-costly", costMs };
  const scorer = new EvidenceScorer(set, {
    seen: problem.seen,
    lastingCount: problem.lastingCount,
    noise: sheet.noise,
  });
  const logPosterior = new Float64Array(set.count);
  const chiSquare = new Float64Array(set.count);
  const slice = Math.max(1, Math.min(SLICE, Math.floor((SLICE_MS * set.count) / costMs)));
  for (let hypothesis = 0; hypothesis < set.count; hypothesis++) {
    if (hypothesis % slice === 0) yield { done: hypothesis, of: set.count };
    const evidence = scorer.score(hypothesis);
    logPosterior[hypothesis] = Math.log(set.weights[hypothesis]!) + evidence.logEvidence;
    chiSquare[hypothesis] = evidence.chiSquare;
  }
  const all = { done: set.count, of: set.count };
  yield all;
  const probabilities = yield* withProgress(normalised(logPosterior), all);
  yield all;
  const ranked = yield* withProgress(likeliestFew(probabilities, set), all);
  yield all;
  const best = ranked[0]!;
  const fitProbability = chiSquareSurvival(chiSquare[best]!, scorer.readingCount);
  const verdict = verdictOf(probabilities[best]!, set.faultsOf(set.likeliest[best]!).length, fitProbability);
  const certain = verdict === "as-planned" || verdict === "faults-found";
  const tests = certain
    ? []
    : yield* withProgress(
        nextTests(
          problem,
          set,
          scorer,
          ranked.map((id) => ({ id, probability: probabilities[id]! })),
        ),
        all,
      );
  yield all;
  return {
    kind: "diagnosed",
    diagnosis: {
      verdict,
      fitProbability,
      scored: set.combinationCount,
      hypotheses: shown(problem, set, ranked, { probabilities, chiSquare, readingCount: scorer.readingCount }),
      nextTests: tests,
    },
  };
}

/** The fitting that a list of faults makes of the plan. */
export function fittingWith(site: Site, faults: readonly Fault[]): SiteFitting {
  return faults.reduce((fitting, fault) => applyFault(site, fitting, fault), plannedFitting(site));
}

function* normalised(logs: Float64Array): Slices<Float64Array> {
  let largest = -Infinity;
  for (const log of logs) largest = Math.max(largest, log);
  // Readings so far off that every evidence underflows leave nothing to rank by but the order of the list.
  if (!Number.isFinite(largest)) return logs.map(() => 1 / logs.length);
  yield;
  const weights = new Float64Array(logs.length);
  let sum = 0;
  for (let at = 0; at < logs.length; at++) {
    const weight = Math.exp(logs[at]! - largest);
    weights[at] = weight;
    sum += weight;
  }
  yield;
  for (let at = 0; at < weights.length; at++) weights[at] = weights[at]! / sum;
  return weights;
}

/** The likeliest of all, likeliest first: as many as anything is said about. */
function* likeliestFew(probabilities: Float64Array, set: HypothesisSet): Slices<readonly number[]> {
  const before = (a: number, b: number) =>
    probabilities[b]! - probabilities[a]! || set.weights[b]! - set.weights[a]! || a - b;
  const few: number[] = [];
  for (let id = 0; id < probabilities.length; id++) {
    if (id % RANKED_A_SLICE === RANKED_A_SLICE - 1) yield;
    if (few.length === MOST_RANKED && before(few[MOST_RANKED - 1]!, id) < 0) continue;
    few.push(id);
    few.sort(before);
    few.length = Math.min(few.length, MOST_RANKED);
  }
  return few;
}

function verdictOf(probability: number, faultCount: number, fitProbability: number): Verdict {
  if (fitProbability < NOT_EXPLAINED_BELOW_P) return "not-explained";
  if (probability <= CERTAIN_ABOVE) return "ambiguous";
  return faultCount === 0 ? "as-planned" : "faults-found";
}

interface Scores {
  readonly probabilities: Float64Array;
  readonly chiSquare: Float64Array;
  readonly readingCount: number;
}

function shown(
  problem: TestProblem,
  set: HypothesisSet,
  ranked: readonly number[],
  scores: Scores,
): readonly Hypothesis[] {
  const top = ranked.slice(0, MAX_SHOWN_HYPOTHESES);
  const combinations = combinationsOf(set, new Set(top));
  const faultsOf = (combination: number) => set.faultsOf(combination).map((at) => problem.candidates[at]!.fault);
  return top.map((id) => {
    const faults = faultsOf(set.likeliest[id]!);
    const others = (combinations.get(id) ?? [])
      .filter((combination) => combination !== set.likeliest[id])
      .sort((a, b) => set.priors[b]! - set.priors[a]! || a - b)
      .slice(0, MAX_SHOWN_ALTERNATIVES);
    return {
      probability: scores.probabilities[id]!,
      faults,
      fitting: fittingOutput(fittingWith(problem.site, faults)),
      alternatives: others.map(faultsOf),
      residual: scores.readingCount > 0 ? scores.chiSquare[id]! / scores.readingCount : 0,
      cure: cures(problem.site, faults),
    };
  });
}

function combinationsOf(set: HypothesisSet, wanted: ReadonlySet<number>): ReadonlyMap<number, readonly number[]> {
  const found = new Map<number, number[]>([...wanted].map((id) => [id, []]));
  const isWanted = new Uint8Array(set.count);
  for (const id of wanted) isWanted[id] = 1;
  for (let combination = 0; combination < set.combinationCount; combination++) {
    const hypothesis = set.hypothesisOf[combination]!;
    if (isWanted[hypothesis] === 1) found.get(hypothesis)!.push(combination);
  }
  return found;
}

function fittingOutput(fitting: SiteFitting): Hypothesis["fitting"] {
  const taps = [...fitting.taps].map(([meter, phases]: [string, Meter["taps"]]) => ({ meter, ...phases }));
  return { inputs: fitting.inputs, taps };
}
