import { CERTAIN_ABOVE, fittingOutput, fittingWith, type Hypothesis, type Verdict } from "@/core/flows/diagnose";
import { cures } from "@/core/flows/cure";
import { evidenceOf } from "@/core/flows/doubt";
import { EvidenceScorer } from "@/core/flows/evidence";
import { combinationCount, hypothesisSet } from "@/core/flows/hypotheses";
import type { HypothesisSet } from "@/core/flows/hypothesisSet";
import { alignLog, type MeterLag } from "@/core/flows/log/alignLog";
import { changesOf, LogEvidence, type LogChange, type WeighedChanges } from "@/core/flows/log/logEvidence";
import { backgroundOf, type ReadingLog } from "@/core/flows/log/logSchema";
import { nextTests, type NextTest } from "@/core/flows/nextTests";
import { testProblem, type TestProblem } from "@/core/flows/testProblem";
import type { Site } from "@/core/site/planSchema";
import { inOneGo, type Slices } from "@/core/slices";

const MOST_SHOWN = 12;
const MOST_ALTERNATIVES = 20;
const MOST_WEIGHED = 40;
/** The changes that choose which hypotheses are weighed by all of them: half those that tell most, half from all. */
const FIRST_CHANGES = 240;
/** Whatever is less likely by so much is not weighed further, ln; nor more than so many. */
const FAR_BEHIND = 40;
const MOST_CHOSEN = 60;
/** With more odd rows than this part, the log is not what the site does. */
const MOST_ODD = 0.25;
const HOUR_S = 3600;
const MOST_HOURS = 3;
const SLICE = 4;

/** An hour of a log, with what it tells of the best explanation against the next, bits. */
export interface TellingHour {
  readonly fromS: number;
  readonly toS: number;
  readonly bits: number;
}

/** What a log comes to. */
export interface LogDiagnosis {
  readonly verdict: Verdict;
  readonly hypotheses: readonly Hypothesis[];
  readonly nextTests: readonly NextTest[];
  readonly scored: number;
  /** The part of the rows that the best explanation does explain. */
  readonly fitProbability: number;
  readonly rowsUsed: number;
  readonly hours: readonly TellingHour[];
  readonly lags: readonly MeterLag[];
}

/**
 * Which faults in the fitting explain hours of readings in which nobody switched anything: sun and battery move by
 * themselves, and the house does not follow them. Changes from row to row are weighed, not levels, with the wide tails
 * that loads have; lags of meters and clocks are taken out first.
 *
 * For example: A day in which the grid meter rises where the sun does: `reversed`, told by the hours around noon.
 */
export function diagnoseLog(site: Site, log: ReadingLog): LogDiagnosis {
  return inOneGo(diagnoseLogInSlices(site, log));
}

/** `diagnoseLog` in slices. */
export function* diagnoseLogInSlices(site: Site, log: ReadingLog): Slices<LogDiagnosis> {
  const background = backgroundOf(log, site);
  const sheet = { steps: [], background: [...background], noise: log.noise, maxFaults: log.maxFaults };
  const problem = testProblem(site, sheet);
  const set = yield* hypothesisSet(site, problem.candidates, log.maxFaults, problem.responses);
  const { readings, lags } = alignLog(log);
  yield;
  const changes = changesOf({ ...log, readings });
  const evidence = new LogEvidence(set, log, problem.responses, background);
  const slots = log.readings.map(({ meter, input }) =>
    problem.inputs.findIndex((own) => own.meter === meter && own.input === input),
  );
  const chosen = yield* worthWeighing(set, evidence, slots, changes);
  const weighed = new Map<number, WeighedChanges>();
  for (const [at, id] of chosen.entries()) {
    weighed.set(
      id,
      atBestScale(log, (scales) => evidence.ofChanges(id, slots, changes, scales)),
    );
    if (at % SLICE === SLICE - 1) yield;
  }
  const { probabilities, ranked } = posterior(set, weighed);
  yield;
  const [best, next] = ranked;
  const oddShare = changes.length === 0 ? 0 : sumOf(weighed.get(best!)!.odd) / changes.length;
  const verdict = verdictOf(problem, set, best!, probabilities.get(best!)!, oddShare, changes.length);
  return {
    verdict,
    hypotheses: ranked
      .slice(0, MOST_SHOWN)
      .map((id) => shown(problem, set, id, probabilities.get(id)!, weighed.get(id)!.odd)),
    nextTests: yield* testsFor(problem, set, ranked, probabilities, verdict),
    scored: combinationCount(problem.candidates.length, log.maxFaults),
    fitProbability: 1 - oddShare,
    rowsUsed: new Set(changes.flatMap(({ fromRow, toRow }) => [fromRow, toRow])).size,
    hours:
      next === undefined ? [] : tellingHours(log.times, changes, weighed.get(best!)!.logs, weighed.get(next)!.logs),
    lags,
  };
}

/** The hypotheses that are not far behind by the changes that tell most and by some of all. */
function* worthWeighing(
  set: HypothesisSet,
  evidence: LogEvidence,
  slots: readonly number[],
  changes: readonly LogChange[],
): Slices<readonly number[]> {
  const first = firstChanges(changes);
  const scores = new Float64Array(set.count);
  for (let id = 0; id < set.count; id++) {
    scores[id] = Math.log(set.weights[id]!) + evidence.ofChanges(id, slots, first).log;
    if (id % (4 * SLICE) === 0) yield;
  }
  const ranked = Array.from(scores.keys()).toSorted((a, b) => scores[b]! - scores[a]!);
  return ranked.filter((id, at) => at < 2 || (at < MOST_CHOSEN && scores[id]! > scores[ranked[0]!]! - FAR_BEHIND));
}

function firstChanges(changes: readonly LogChange[]): readonly LogChange[] {
  if (changes.length <= FIRST_CHANGES) return changes;
  const sizeOf = ({ knownW }: LogChange) => knownW.reduce((sum, watts) => sum + Math.abs(watts), 0);
  const telling = changes.toSorted((a, b) => sizeOf(b) - sizeOf(a)).slice(0, FIRST_CHANGES / 2);
  const every = Math.ceil(changes.length / (FIRST_CHANGES / 2));
  return [...new Set([...telling, ...changes.filter((_, at) => at % every === 0)])];
}

/**
 * At the factors of what is known that fit best: a parabola through three of each, with the normal prior that its
 * tolerance gives.
 */
function atBestScale(log: ReadingLog, weigh: (scales: readonly number[]) => WeighedChanges): WeighedChanges {
  const plain = weigh(log.known.map(() => 1));
  let [best, bestLog] = [plain, plain.log];
  let scales = log.known.map(() => 1);
  for (const [at, { tolerancePct }] of log.known.entries()) {
    const sd = tolerancePct / 100;
    if (sd === 0) continue;
    const [low, high] = [-sd, sd].map((by) => weigh(scales.with(at, 1 + by)).log - 0.5);
    const bend = low! - 2 * bestLog + high!;
    const by = bend < 0 ? Math.max(-3 * sd, Math.min(3 * sd, (0.5 * sd * (low! - high!)) / bend)) : 0;
    const moved = weigh(scales.with(at, 1 + by));
    const movedLog = moved.log - 0.5 * (by / sd) ** 2;
    if (movedLog <= bestLog) continue;
    scales = scales.with(at, 1 + by);
    [best, bestLog] = [{ ...moved, log: movedLog }, movedLog];
  }
  return best;
}

function posterior(set: HypothesisSet, weighed: ReadonlyMap<number, WeighedChanges>) {
  const own = [...weighed].map(([id, { log }]) => [id, Math.log(set.weights[id]!) + log] as const);
  const most = Math.max(...own.map(([, log]) => log));
  const total = own.reduce((sum, [, log]) => sum + Math.exp(log - most), 0);
  const probabilities = new Map(own.map(([id, log]) => [id, Math.exp(log - most) / total]));
  const ranked = own.toSorted((a, b) => b[1] - a[1] || a[0] - b[0]).map(([id]) => id);
  return { probabilities, ranked };
}

function verdictOf(
  problem: TestProblem,
  set: HypothesisSet,
  best: number,
  probability: number,
  oddShare: number,
  changes: number,
): Verdict {
  if (changes > 0 && oddShare > MOST_ODD) return "not-explained";
  if (probability <= CERTAIN_ABOVE) return "ambiguous";
  return faultsOf(problem, set, set.likeliest[best]!).length === 0 ? "as-planned" : "faults-found";
}

function faultsOf(problem: TestProblem, set: HypothesisSet, combination: number) {
  return set.faultsOf(combination).map((at) => problem.candidates[at]!.fault);
}

function shown(
  problem: TestProblem,
  set: HypothesisSet,
  id: number,
  probability: number,
  odd: Float64Array,
): Hypothesis {
  const faults = faultsOf(problem, set, set.likeliest[id]!);
  const others = Array.from({ length: set.combinationCount }, (_, combination) => combination)
    .filter((combination) => set.hypothesisOf[combination] === id && combination !== set.likeliest[id])
    .toSorted((a, b) => set.priors[b]! - set.priors[a]!)
    .slice(0, MOST_ALTERNATIVES);
  return {
    probability,
    faults,
    fitting: fittingOutput(fittingWith(problem.site, faults)),
    alternatives: others.map((combination) => faultsOf(problem, set, combination)),
    residual: odd.length === 0 ? 0 : sumOf(odd) / odd.length,
    cure: cures(problem.site, faults),
  };
}

/** What to switch on next, where the log alone does not tell. */
function* testsFor(
  problem: TestProblem,
  set: HypothesisSet,
  ranked: readonly number[],
  probabilities: ReadonlyMap<number, number>,
  verdict: Verdict,
): Slices<readonly NextTest[]> {
  if (verdict === "as-planned" || verdict === "faults-found") return [];
  const scorer = new EvidenceScorer(set, evidenceOf(problem, problem.seen));
  const weighed = ranked.slice(0, MOST_WEIGHED).map((id) => ({ id, probability: probabilities.get(id)! }));
  return yield* nextTests(problem, set, scorer, weighed);
}

function tellingHours(
  times: readonly number[],
  changes: readonly LogChange[],
  best: Float64Array,
  next: Float64Array,
): readonly TellingHour[] {
  const first = times[0]!;
  const bits = new Map<number, number>();
  for (const [at, { toRow }] of changes.entries()) {
    const hour = Math.floor((times[toRow]! - first) / HOUR_S);
    bits.set(hour, (bits.get(hour) ?? 0) + (best[at]! - next[at]!) / Math.LN2);
  }
  return [...bits]
    .filter(([, told]) => told > 0)
    .toSorted((a, b) => b[1] - a[1])
    .slice(0, MOST_HOURS)
    .map(([hour, told]) => ({ fromS: first + hour * HOUR_S, toS: first + (hour + 1) * HOUR_S, bits: told }));
}

function sumOf(values: Float64Array): number {
  let sum = 0;
  for (const value of values) sum += value;
  return sum;
}
