import { z } from "zod";
import { faultText } from "@/core/flows/cure";
import { CERTAIN_ABOVE } from "@/core/flows/diagnose";
import type { Fault } from "@/core/flows/faults";
import { hypothesisSet } from "@/core/flows/hypotheses";
import type { HypothesisSet } from "@/core/flows/hypothesisSet";
import { possibleTests, type PossibleTest } from "@/core/flows/possibleTests";
import { expectedEvidence, SheetExpecter } from "@/core/flows/proof/expectedSheet";
import { testProblem, type TestProblem } from "@/core/flows/testProblem";
import {
  backgroundShape,
  noiseShape,
  testSheetProblems,
  testSheetShape,
  type KnownDevice,
} from "@/core/flows/testSheetSchema";
import { refineWith } from "@/core/problem";
import type { Site } from "@/core/site/planSchema";
import { siteSchema } from "@/core/site/siteSchema";
import { inOneGo, type Slices } from "@/core/slices";

/** The probability that a verdict needs, as odds against all else, ln. */
const CERTAIN_LOG = Math.log(CERTAIN_ABOVE / (1 - CERTAIN_ABOVE));
/** How long a step takes: a load is switched in three minutes, a source isolated or run in more. */
const MINUTES = { rest: 5, load: 3, source: 6 } as const;
/** Up to this many tests every choice of them is looked at; of more the best by what each adds. */
const MOST_TRIED = 9;
const MOST_CANNOT = 30;
/** Beyond so many inputs a plan takes longer than anybody waits. */
const MOST_INPUTS = 12;

const askShape = z.object({
  background: z.array(backgroundShape).max(50).optional(),
  noise: noiseShape.default({ absoluteW: 8, relative: 0.01 }),
});

/** What the route `proof-plan` takes: a site, and what is assumed of loads and readings. */
export const proofPlanRequestSchema = z
  .object({ site: siteSchema, ...askShape.shape })
  .superRefine(
    refineWith(({ site, background, noise }) =>
      site.meters.reduce((sum, { inputs }) => sum + inputs.length, 0) > MOST_INPUTS
        ? [{ path: ["site", "meters"], message: `more than ${MOST_INPUTS} inputs; plan one meter at a time` }]
        : testSheetProblems(testSheetShape.parse({ background, noise }), site),
    ),
  );

/** What is assumed beside the site. */
export type ProofAssumptions = Pick<z.output<typeof proofPlanRequestSchema>, "background" | "noise">;

/** One step of a proof that is still to be made. */
export interface ProofStep {
  readonly label: string;
  readonly devices: readonly KnownDevice[];
  readonly minutes: number;
}

/** A fault against a plan that is right: after how many of the steps it is told, and how surely. */
export interface ExcludedFault {
  readonly faults: readonly Fault[];
  readonly words: string;
  /** The step, from 0, from which on it is told; null where none does. */
  readonly toldBy: number | null;
  readonly bits: number;
}

/** Faults that the readings of a proof do not tell from others, and what would. */
export interface CannotTell {
  readonly faults: readonly Fault[];
  readonly with: readonly Fault[];
  readonly why: string;
  readonly wouldNeed: string;
}

/** What a proof excludes. */
export interface ProofTable {
  readonly singleFaults: { readonly told: number; readonly of: number };
  readonly pairsToldPct: number;
  readonly excluded: readonly ExcludedFault[];
  readonly cannotTell: readonly CannotTell[];
}

/** The shortest proof of a site, and what it excludes. */
export interface ProofPlan extends ProofTable {
  readonly steps: readonly ProofStep[];
}

/**
 * The fewest minutes of switching after which every single fault that can be told is told: of all steps that the site
 * allows the cheapest choice for which the readings, whichever way the fitting is, would settle it (expected evidence
 * against the prior odds). What no reading tells is listed with what would.
 *
 * For example: A three-phase board with a kettle on every phase: at rest, and each kettle.
 */
export function proofPlan(site: Site, assumed: ProofAssumptions): ProofPlan {
  return inOneGo(proofPlanInSlices(site, assumed));
}

/** `proofPlan` in slices. */
export function* proofPlanInSlices(site: Site, assumed: ProofAssumptions): Slices<ProofPlan> {
  const { problem, set } = yield* readied(site, assumed);
  const tests = possibleTests(problem).filter(({ extra }) => extra === undefined);
  const expecter = new SheetExpecter(
    problem,
    set,
    tests.map(({ devices }) => devices),
  );
  const chosen = yield* cheapest(site, set, expecter, tests);
  const steps = chosen.map((at): ProofStep => {
    const { label, devices } = tests[at]!;
    return { label, devices, minutes: minutesOf(site, tests[at]!) };
  });
  const table = yield* tableOf(problem, set, expecter, chosen, tests);
  return { steps, ...table };
}

/**
 * What a sheet of steps excludes, done or planned: each single fault with the step that tells it, and what cannot be
 * told from what.
 */
export function proofTable(
  site: Site,
  assumed: ProofAssumptions,
  steps: readonly (readonly KnownDevice[])[],
): ProofTable {
  return inOneGo(
    (function* () {
      const { problem, set } = yield* readied(site, assumed);
      const tests = possibleTests(problem).filter(({ extra }) => extra === undefined);
      const all = [...steps, ...tests.map(({ devices }) => devices)];
      const own = steps.map((_, at) => at);
      return yield* tableOf(problem, set, new SheetExpecter(problem, set, all), own, tests, steps.length);
    })(),
  );
}

function* readied(site: Site, { background, noise }: ProofAssumptions) {
  const sheet = testSheetShape.parse({ ...(background ? { background } : {}), noise, maxFaults: 1 });
  const problem = testProblem(site, sheet);
  const set = yield* hypothesisSet(site, problem.candidates, 1, problem.responses);
  return { problem, set };
}

/** Whether a fault and the plan would each be settled by the readings of some steps. */
function isTold(set: HypothesisSet, expecter: SheetExpecter, steps: readonly number[], fault: number): boolean {
  return (
    evidenceFor(set, expecter, steps, fault, 0) >= CERTAIN_LOG &&
    evidenceFor(set, expecter, steps, 0, fault) >= CERTAIN_LOG
  );
}

/** The expected ln odds of an explanation against another, were it so. */
function evidenceFor(
  set: HypothesisSet,
  expecter: SheetExpecter,
  steps: readonly number[],
  truth: number,
  other: number,
): number {
  if (steps.length === 0) return -Infinity;
  const prior = Math.log(set.weights[truth]! / set.weights[other]!);
  return prior + expectedEvidence(expecter.of(truth, steps), expecter.of(other, steps));
}

function minutesOf(site: Site, { node, powerW }: PossibleTest): number {
  const kind = site.nodes.find(({ id }) => id === node)?.kind;
  if (node === null) return MINUTES.rest;
  return powerW < 0 || kind === "battery-inverter" || kind === "hybrid-inverter" ? MINUTES.source : MINUTES.load;
}

/** The choice of tests that tells all that all of them tell in the fewest minutes; in the order in which they stand. */
function* cheapest(
  site: Site,
  set: HypothesisSet,
  expecter: SheetExpecter,
  tests: readonly PossibleTest[],
): Slices<readonly number[]> {
  const all = tests.map((_, at) => at);
  const faults = Array.from({ length: set.count - 1 }, (_, at) => at + 1);
  let tellable: number[] = [];
  for (const fault of faults) {
    if (isTold(set, expecter, all, fault)) tellable.push(fault);
    yield;
  }
  const costOf = (choice: readonly number[]) => choice.reduce((sum, at) => sum + minutesOf(site, tests[at]!), 0);
  const tellsAll = (choice: readonly number[]) => {
    const missed = tellable.findIndex((fault) => !isTold(set, expecter, choice, fault));
    if (missed < 0) return true;
    // Whoever was missed is asked first next time.
    tellable = [tellable[missed]!, ...tellable.toSpliced(missed, 1)];
    return false;
  };
  if (tests.length <= MOST_TRIED) {
    const choices = subsets(all).toSorted((a, b) => costOf(a) - costOf(b) || a.length - b.length);
    for (const choice of choices) {
      if (tellsAll(choice)) return choice;
      yield;
    }
    return all;
  }
  // Too many to try all: leave out whatever is not needed, the dearest first.
  let kept: readonly number[] = all;
  for (const at of all.toSorted((a, b) => minutesOf(site, tests[b]!) - minutesOf(site, tests[a]!))) {
    const without = kept.filter((own) => own !== at);
    if (without.length > 0 && tellsAll(without)) kept = without;
    yield;
  }
  return kept;
}

function subsets(items: readonly number[]): readonly (readonly number[])[] {
  return Array.from({ length: 2 ** items.length - 1 }, (_, at) =>
    items.filter((_item, which) => ((at + 1) & (1 << which)) !== 0),
  );
}

function* tableOf(
  problem: TestProblem,
  set: HypothesisSet,
  expecter: SheetExpecter,
  chosen: readonly number[],
  tests: readonly PossibleTest[],
  firstTest = 0,
): Slices<ProofTable> {
  const faults = Array.from({ length: set.count - 1 }, (_, at) => at + 1);
  const faultsOf = (id: number): readonly Fault[] =>
    set.faultsOf(set.likeliest[id]!).map((at) => problem.candidates[at]!.fault);
  const excluded: ExcludedFault[] = [];
  for (const id of faults) {
    let toldBy: number | null = null;
    for (let upTo = 1; upTo <= chosen.length && toldBy === null; upTo++)
      if (isTold(set, expecter, chosen.slice(0, upTo), id)) toldBy = upTo - 1;
    const own = chosen.length === 0 ? 0 : expectedEvidence(expecter.of(id, chosen), expecter.of(0, chosen));
    excluded.push({ faults: faultsOf(id), words: wordsOf(problem, faultsOf(id)), toldBy, bits: own / Math.LN2 });
    yield;
  }
  const cannot: CannotTell[] = [];
  for (const [at, id] of faults.entries())
    if (excluded[at]!.toldBy === null) cannot.push(yield* cannotTell(problem, set, expecter, id, 0, tests, firstTest));
  let [pairs, told] = [0, 0];
  for (const a of faults) {
    for (const b of faults) {
      if (b <= a) continue;
      pairs++;
      const isClear =
        chosen.length > 0 &&
        expectedEvidence(expecter.of(a, chosen), expecter.of(b, chosen)) >= CERTAIN_LOG &&
        expectedEvidence(expecter.of(b, chosen), expecter.of(a, chosen)) >= CERTAIN_LOG;
      if (isClear) told++;
      else if (cannot.length < MOST_CANNOT)
        cannot.push(yield* cannotTell(problem, set, expecter, a, b, tests, firstTest));
    }
    yield;
  }
  cannot.push(...alikeByNature(problem, set, faultsOf).slice(0, Math.max(0, MOST_CANNOT - cannot.length)));
  return {
    singleFaults: { told: excluded.filter(({ toldBy }) => toldBy !== null).length, of: excluded.length },
    pairsToldPct: pairs === 0 ? 100 : Math.round((1000 * told) / pairs) / 10,
    excluded,
    cannotTell: cannot,
  };
}

function* cannotTell(
  problem: TestProblem,
  set: HypothesisSet,
  expecter: SheetExpecter,
  fault: number,
  other: number,
  tests: readonly PossibleTest[],
  firstTest: number,
): Slices<CannotTell> {
  const faultsOf = (id: number) => set.faultsOf(set.likeliest[id]!).map((at) => problem.candidates[at]!.fault);
  let [best, bestLog] = [-1, 0];
  for (let at = 0; at < tests.length; at++) {
    const step = [firstTest + at];
    const log = Math.min(
      expectedEvidence(expecter.of(fault, step), expecter.of(other, step)),
      expectedEvidence(expecter.of(other, step), expecter.of(fault, step)),
    );
    if (log > bestLog) [best, bestLog] = [at, log];
    yield;
  }
  const wouldTell = bestLog >= CERTAIN_LOG;
  return {
    faults: faultsOf(fault),
    with: faultsOf(other),
    why: wouldTell
      ? "the steps of this proof read nearly the same for both"
      : "every step that the site allows reads nearly the same for both",
    wouldNeed: wouldTell
      ? tests[best]!.label
      : "a known load on another phase, more power, or a look at the CTs themselves",
  };
}

/** Faults that read the same whatever flows: only eyes tell them. */
function alikeByNature(
  problem: TestProblem,
  set: HypothesisSet,
  faultsOf: (id: number) => readonly Fault[],
): readonly CannotTell[] {
  const seen: CannotTell[] = [];
  for (let combination = 0; combination < set.combinationCount; combination++) {
    const id = set.hypothesisOf[combination]!;
    if (combination === set.likeliest[id]) continue;
    seen.push({
      faults: set.faultsOf(combination).map((at) => problem.candidates[at]!.fault),
      with: faultsOf(id),
      why: "both read the same whatever the devices do",
      wouldNeed: "a look at the CTs themselves",
    });
  }
  return seen;
}

function wordsOf({ site }: TestProblem, faults: readonly Fault[]): string {
  return faults.map((fault) => faultText(site, fault)).join("; ");
}
