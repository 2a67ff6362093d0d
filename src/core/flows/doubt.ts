import { chiSquareSurvival } from "@/core/flows/chiSquare";
import { choleskyInPlace, solveLowerInPlace, solveUpperInPlace } from "@/core/flows/cholesky";
import { EvidenceScorer, jointEvidence, otherParts, type SeenEvidence } from "@/core/flows/evidence";
import type { SeenStep } from "@/core/flows/factoredStep";
import type { Fault } from "@/core/flows/faults";
import type { HypothesisSet } from "@/core/flows/hypothesisSet";
import { entropyBits, type NextTest } from "@/core/flows/nextTests";
import { oddities, type Oddity, type OddityKind } from "@/core/flows/oddities";
import { respond } from "@/core/flows/powerModel";
import type { TestProblem } from "@/core/flows/testProblem";
import { inputTag } from "@/core/site/inputTag";
import { nodeName } from "@/core/site/tree";
import { powerText } from "@/core/units";
import { joined } from "@/core/words";

/** The fitting as planned, among the hypotheses of a set. */
export const PLANNED = 0;
/** An explanation that chance would miss by so much less often than this does not fit. */
const LEAST_FIT_P = 0.001;
/** A miss of so many times what is expected is none that chance makes, of however few readings. */
const FAR_OUT = 10;
/** Explanations of several faults give way to one fault with one odd reading; more than so many are not looked at. */
const MOST_SIMPLER = 120;
/** Explanations times odd things that are tried at most: a long sheet that nothing explains holds nobody up. */
const MOST_TRIED = 20_000;
/** Closer than this to the step before, a display may not have changed yet, W or share. */
const STALE_W = 2;
const STALE_SHARE = 0.005;

/** A reading that is to be read again, with what it showed and what it would show. */
export interface DoubtfulReading {
  readonly meter: string;
  readonly input: number;
  readonly powerW: number;
  readonly wouldBeW: number;
}

/** One odd thing that explains a sheet as well as a fault in the fitting does. */
export interface Doubt {
  readonly kind: OddityKind;
  /** The step, from 0. */
  readonly step: number;
  readonly readings: readonly DoubtfulReading[];
  /** The faults that are left with it; none where the fitting is as planned. */
  readonly faults: readonly Fault[];
  /** In words: what is odd, and why it may be. */
  readonly why: string;
}

/** A doubt with the step to repeat, and what each explanation gains by its best odd thing (ln). */
export interface FoundDoubt {
  readonly said: Doubt;
  readonly again: NextTest;
  readonly logs: ReadonlyMap<number, number>;
}

/** Everything that was seen, as a scorer takes it. */
export function evidenceOf({ lastingCount, sheet }: TestProblem, seen: readonly SeenStep[]): SeenEvidence {
  return { seen, lastingCount, noise: sheet.noise };
}

/** Whether a miss of this size is one that chance makes. */
export function fits(chiSquare: number, readingCount: number): boolean {
  // Far out the answer is known without its series.
  if (chiSquare > FAR_OUT * (readingCount + FAR_OUT)) return false;
  return chiSquareSurvival(chiSquare, Math.max(1, readingCount)) >= LEAST_FIT_P;
}

interface Blamed {
  readonly verdict: string;
  readonly best: number;
  /** ln of prior and evidence of the best, without anything odd. */
  readonly bestLog: number;
  readonly ranked: readonly number[];
}

/**
 * The one odd reading, switching or device that explains a sheet with fewer faults than the best explanation has, where
 * there is one; undefined where the fitting is to blame whatever single thing was odd. A step that was read twice
 * leaves no doubt: one odd reading does not explain two.
 *
 * In slices, one an odd thing.
 */
export function* findDoubt(
  problem: TestProblem,
  set: HypothesisSet,
  { verdict, best, bestLog, ranked }: Blamed,
): Generator<undefined, FoundDoubt | undefined> {
  const faultCount = (id: number) => set.faultsOf(set.likeliest[id]!).length;
  const isExplained = verdict === "faults-found";
  const simpler =
    isExplained && faultCount(best) <= 1
      ? [PLANNED]
      : [PLANNED, ...singles(set), ...(isExplained ? [] : ranked)].slice(0, MOST_SIMPLER);
  const all = oddities(problem);
  const asked = simpler.filter((id) => !isExplained || id !== best);
  const few = asked.slice(0, Math.max(1, Math.floor(MOST_TRIED / Math.max(1, all.length))));
  const scorerOf = (seen: SeenStep) => new EvidenceScorer(set, evidenceOf(problem, [seen]));
  const usual = problem.seen.map(scorerOf);
  // Only the step with the odd thing in it is worked out anew: the others say what they said.
  const { lastingCount } = problem;
  const others = few.map((id) =>
    otherParts(
      usual.map((scorer) => scorer.part(id)),
      lastingCount,
    ),
  );
  yield;
  const logs = new Map<number, number>();
  let found: { oddity: Oddity; id: number; log: number } | undefined;
  for (const oddity of all) {
    const scorer = scorerOf(oddity.seen[oddity.step]!);
    for (const [at, id] of few.entries()) {
      const other = others[at]![oddity.step]!;
      const { logEvidence, chiSquare } = jointEvidence(other, scorer.part(id), lastingCount);
      if (!fits(chiSquare, other.readingCount + scorer.readingCount - oddity.lost)) continue;
      const log = Math.log(oddity.prior) + Math.log(set.weights[id]!) + logEvidence;
      logs.set(id, Math.max(log, logs.get(id) ?? -Infinity));
      if (!found || log > found.log) found = { oddity, id, log };
    }
    yield;
  }
  if (!found) return undefined;
  const said = saidDoubt(problem, set, found);
  return { said, logs, again: readAgain(problem, said, oddsBits(found.log - bestLog)) };
}

/** Every hypothesis that one fault comes to. */
function singles(set: HypothesisSet): readonly number[] {
  const ids = new Set<number>();
  for (let combination = 0; combination < set.combinationCount && ids.size < MOST_SIMPLER; combination++)
    if (set.faultsOf(combination).length === 1) ids.add(set.hypothesisOf[combination]!);
  ids.delete(PLANNED);
  return [...ids];
}

function saidDoubt(
  problem: TestProblem,
  set: HypothesisSet,
  { oddity, id }: { readonly oddity: Oddity; readonly id: number },
): Doubt {
  const scorer = new EvidenceScorer(set, evidenceOf(problem, oddity.seen));
  const seen = problem.seen[oddity.step]!;
  const wouldBe = expectedW(set, id, scorer, oddity.seen[oddity.step]!);
  const readings = oddity.readings.map((at): DoubtfulReading => {
    const { meter, input } = problem.inputs[seen.slots[at]!]!;
    return { meter, input, powerW: seen.readingsW[at]!, wouldBeW: Math.round(wouldBe[at]!) };
  });
  return {
    kind: oddity.kind,
    step: oddity.step,
    readings,
    faults: set.faultsOf(set.likeliest[id]!).map((at) => problem.candidates[at]!.fault),
    why: whyOf(problem, oddity, readings),
  };
}

/** What each input of a step shows under a hypothesis, with the background that all other readings speak for, W. */
function expectedW(set: HypothesisSet, id: number, scorer: EvidenceScorer, { powers, slots }: SeenStep): Float64Array {
  const { precision, weighted } = scorer.information(id);
  const count = weighted.length;
  choleskyInPlace(precision, count);
  solveLowerInPlace(precision, count, weighted, 1);
  solveUpperInPlace(precision, count, weighted, 1);
  return Float64Array.from(slots, (slot) => {
    const response = set.inputResponses[id * set.inputCount + slot]!;
    const row = set.rows[set.responseRows[response]!]!;
    const lastingW = powers.lasting.reduce((sum, direction, at) => sum + respond(row, direction) * weighted[at]!, 0);
    return set.responseAmplitudes[response]! * (respond(row, powers.mean) + lastingW);
  });
}

function whyOf(problem: TestProblem, oddity: Oddity, readings: readonly DoubtfulReading[]): string {
  const { site, sheet } = problem;
  const step = `step ${oddity.step + 1}`;
  const tags = joined(readings.map(({ meter, input }) => inputTag(site, meter, input)));
  switch (oddity.kind) {
    case "reading":
      return `${tags} in ${step} shows ${powerText(readings[0]!.powerW)} and should show about ${powerText(
        readings[0]!.wouldBeW,
      )}${likely(problem, oddity, readings[0]!)}`;
    case "meter":
      return (
        `${tags} in ${step} do not belong to what was switched: ` + "the display of that meter may not have changed yet"
      );
    case "swapped":
      return `${tags} in ${step} look exchanged when they were written down`;
    case "switching":
      return (
        `Something of ${nodeName(site, oddity.node!)}${oddity.phase ? ` on ${oddity.phase}` : ""} may have been ` +
        `switched in ${step}, and nobody wrote it down`
      );
    case "device": {
      const device = sheet.steps[oddity.step]!.devices.find(({ node }) => node === oddity.node);
      return (
        `${nodeName(site, oddity.node!)} may not have run at ${powerText(device?.powerW ?? 0)} in ${step}: ` +
        "its own display or thermostat says"
      );
    }
  }
}

/** The usual slip behind one odd number: an old display, a sign, a decimal point. */
function likely({ seen, inputs }: TestProblem, { step }: Oddity, { meter, input, powerW, wouldBeW }: DoubtfulReading) {
  const before = seen[step - 1];
  const at = before?.slots.findIndex((slot) => inputs[slot]!.meter === meter && inputs[slot]!.input === input) ?? -1;
  const earlier = before?.readingsW[at];
  const isNear = (a: number, b: number) => Math.abs(a - b) <= Math.max(STALE_W, STALE_SHARE * Math.abs(b));
  const isAbout = (a: number, b: number) => Math.abs(a - b) <= 0.1 * Math.abs(b) + 20;
  if (earlier !== undefined && isNear(powerW, earlier))
    return `: it is what step ${step} showed, the display had not changed yet`;
  if (isAbout(-powerW, wouldBeW)) return ": the same without its sign, or with another";
  if (isAbout(powerW / 10, wouldBeW) || isAbout(10 * powerW, wouldBeW)) return ": a decimal point in another place";
  return "";
}

/** What a reading tells that decides between two explanations, from how much likelier (ln) the one is, bits. */
function oddsBits(logOdds: number): number {
  const p = 1 / (1 + Math.exp(-logOdds));
  return entropyBits([p, 1 - p]);
}

/** The same step once more: the cheapest test there is. */
function readAgain({ sheet, site }: TestProblem, { step, readings }: Doubt, gainBits: number): NextTest {
  const own = sheet.steps[step]!;
  const isFew = readings.length < own.readings.length;
  const what = isFew
    ? joined(readings.map(({ meter, input }) => inputTag(site, meter, input)))
    : "readings of this step";
  return {
    label: `${own.label}, read again`.slice(0, 120),
    node: null,
    phase: null,
    powerW: 0,
    gainBits,
    settles: 1,
    why: `settles whether the fitting is wrong or ${what} ${isFew && readings.length === 1 ? "was" : "were"} misread`,
    devices: own.devices,
  };
}
