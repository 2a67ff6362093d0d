import { z } from "zod";
import { chiSquareSurvival } from "@/core/flows/chiSquare";
import { scoringCostMs } from "@/core/flows/diagnosisCost";
import { cures } from "@/core/flows/cure";
import { evidenceOf, findDoubt, fits, PLANNED, type Doubt } from "@/core/flows/doubt";
import { EvidenceScorer, type SeenEvidence } from "@/core/flows/evidence";
import { applyFault, plannedFitting, type SiteFitting } from "@/core/flows/fitting";
import type { Fault } from "@/core/flows/faults";
import { combinationCount, hypothesisSet } from "@/core/flows/hypotheses";
import type { HypothesisSet } from "@/core/flows/hypothesisSet";
import { MAX_WEIGHED, nextTests, type NextTest } from "@/core/flows/nextTests";
import { sheetVariants } from "@/core/flows/oddities";
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
/** What is left for the usual view of a sheet beside the wider ones. */
const USUAL_PRIOR = 0.78;

/** What the route `diagnose` takes: a site and its test sheet. */
export const diagnoseRequestSchema = z
  .object({ site: siteSchema, ...testSheetShape.shape })
  .superRefine(refineWith(({ site, ...sheet }) => testSheetProblems(sheet, site)));

/** What the readings come to. */
export type Verdict = "as-planned" | "faults-found" | "ambiguous" | "not-explained" | "reading-doubtful";

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
  /** The one odd thing that explains the sheet as well as a fault does; of `reading-doubtful` only. */
  readonly doubt: Doubt | undefined;
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
 * What one odd reading, switching or device explains as well is doubted, not found: see `findDoubt`.
 *
 * For example: Input 1 reads −2410 W with a 2200 W kettle on and solar off, and −195 W without: `reading-doubtful`,
 * best explanation `reversed`; with −2420 W when it is read again: `faults-found`, cure "Turn the CT of input 1
 * round, or swap its two leads".
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
  const all = { done: set.count, of: set.count };
  const slice = Math.max(1, Math.min(SLICE, Math.floor((SLICE_MS * set.count) / costMs)));
  const usual = yield* scored(set, evidenceOf(problem, problem.seen), slice);
  yield all;
  const view = yield* withProgress(viewOf(set, [{ ...usual, prior: USUAL_PRIOR }]), all);
  const mixed = yield* widened(problem, set, slice, usual, view);
  const { ranked, fitProbability, verdict } = mixed;
  yield all;
  const doubt =
    verdict === "as-planned" || verdict === "ambiguous"
      ? undefined
      : yield* withProgress(
          findDoubt(problem, set, { verdict, best: ranked[0]!, bestLog: logOf(set, usual, ranked[0]!), ranked }),
          all,
        );
  const settled = doubt ? "reading-doubtful" : verdict;
  const weighed = doubt ? yield* withProgress(withOdd(set, mixed, doubt.logs), all) : mixed;
  const isCertain = settled === "as-planned" || settled === "faults-found";
  const tests = isCertain
    ? []
    : yield* withProgress(
        nextTests(
          problem,
          set,
          usual.scorer,
          weighed.ranked.map((id) => ({ id, probability: weighed.probabilities[id]! })),
        ),
        all,
      );
  yield all;
  return {
    kind: "diagnosed",
    diagnosis: {
      verdict: settled,
      fitProbability,
      scored: set.combinationCount,
      hypotheses: shown(problem, set, weighed.ranked, {
        probabilities: weighed.probabilities,
        chiSquareOf: mixed.chiSquareOf,
        readingCount: usual.scorer.readingCount,
      }),
      nextTests: doubt ? [doubt.again, ...tests] : tests,
      doubt: doubt?.said,
    },
  };
}

function logOf(set: HypothesisSet, { logEvidence }: Scored, id: number): number {
  return Math.log(USUAL_PRIOR) + Math.log(set.weights[id]!) + logEvidence[id]!;
}

/** The evidence of every hypothesis under one view of the sheet. */
interface Scored {
  readonly scorer: EvidenceScorer;
  readonly logEvidence: Float64Array;
  readonly chiSquare: Float64Array;
}

function* scored(set: HypothesisSet, evidence: SeenEvidence, slice: number): Slices<Scored, DiagnosisProgress> {
  const scorer = new EvidenceScorer(set, evidence);
  const logEvidence = new Float64Array(set.count);
  const chiSquare = new Float64Array(set.count);
  for (let hypothesis = 0; hypothesis < set.count; hypothesis++) {
    if (hypothesis % slice === 0) yield { done: hypothesis, of: set.count };
    const found = scorer.score(hypothesis);
    logEvidence[hypothesis] = found.logEvidence;
    chiSquare[hypothesis] = found.chiSquare;
  }
  return { scorer, logEvidence, chiSquare };
}

/** What the views of a sheet come to, mixed. */
interface MixedView {
  readonly logPosterior: Float64Array;
  /** The miss of an explanation in the view that it fits best. */
  readonly chiSquareOf: (id: number) => number;
  readonly probabilities: Float64Array;
  readonly ranked: readonly number[];
  readonly fitProbability: number;
  readonly verdict: Verdict;
}

/** Every hypothesis by its evidence under all views, each with its prior; the fit is that of the best view. */
function* viewOf(set: HypothesisSet, views: readonly (Scored & { readonly prior: number })[]): Slices<MixedView> {
  const logPosterior = new Float64Array(set.count);
  for (let id = 0; id < set.count; id++) {
    let mixed = -Infinity;
    for (const { logEvidence, prior } of views) mixed = logSum(mixed, Math.log(prior) + logEvidence[id]!);
    logPosterior[id] = Math.log(set.weights[id]!) + mixed;
    if (id % RANKED_A_SLICE === RANKED_A_SLICE - 1) yield;
  }
  const probabilities = yield* normalised(logPosterior);
  yield;
  const ranked = yield* likeliestFew(probabilities, set);
  yield;
  const best = ranked[0]!;
  const chiSquareOf = (id: number) => Math.min(...views.map(({ chiSquare }) => chiSquare[id]!));
  const fitProbability = chiSquareSurvival(chiSquareOf(best), views[0]!.scorer.readingCount);
  const verdict = verdictOf(probabilities[best]!, set.faultsOf(set.likeliest[best]!).length, fitProbability);
  return { logPosterior, chiSquareOf, probabilities, ranked, fitProbability, verdict };
}

/** ln(eᵃ + eᵇ), where either may be nothing. */
function logSum(a: number, b: number): number {
  if (a === -Infinity) return b;
  const high = Math.max(a, b);
  return high + Math.log1p(Math.exp(Math.min(a, b) - high));
}

/** The same with one odd thing mixed in, for every explanation that it helps. */
function* withOdd(
  set: HypothesisSet,
  { logPosterior }: MixedView,
  logs: ReadonlyMap<number, number>,
): Slices<Pick<MixedView, "probabilities" | "ranked">> {
  const mixed = logPosterior.slice();
  for (const [id, log] of logs) mixed[id] = logSum(mixed[id]!, log);
  const probabilities = yield* normalised(mixed);
  return { probabilities, ranked: yield* likeliestFew(probabilities, set) };
}

/**
 * The same with wider views of the sheet mixed in, where the usual one blames the fitting or explains nothing: a steady
 * load far above the usual, meters read at different moments. A view that cannot save the plan costs one score only.
 */
function* widened(
  problem: TestProblem,
  set: HypothesisSet,
  slice: number,
  usual: Scored,
  view: MixedView,
): Slices<MixedView, DiagnosisProgress> {
  if (view.verdict === "as-planned") return view;
  const views: (Scored & { readonly prior: number })[] = [{ ...usual, prior: USUAL_PRIOR }];
  for (const variant of sheetVariants(problem)) {
    const evidence = evidenceOf(problem, variant.seen);
    const planned = new EvidenceScorer(set, evidence).score(PLANNED);
    const savesPlan = fits(planned.chiSquare, usual.scorer.readingCount);
    if (savesPlan || view.verdict === "not-explained")
      views.push({ ...(yield* scored(set, evidence, slice)), prior: variant.prior });
  }
  if (views.length === 1) return view;
  return yield* withProgress(viewOf(set, views), { done: set.count, of: set.count });
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
  readonly chiSquareOf: (id: number) => number;
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
      residual: scores.readingCount > 0 ? scores.chiSquareOf(id) / scores.readingCount : 0,
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

/** A fitting as it is told. */
export function fittingOutput(fitting: SiteFitting): Hypothesis["fitting"] {
  const taps = [...fitting.taps].map(([meter, phases]: [string, Meter["taps"]]) => ({ meter, ...phases }));
  return { inputs: fitting.inputs, taps };
}
