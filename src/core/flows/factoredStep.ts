import type { HypothesisSet } from "@/core/flows/hypothesisSet";
import type { StepPowers } from "@/core/flows/powerModel";
import { readingVariance, stepTables, type StepTables } from "@/core/flows/stepTables";
import type { Noise } from "@/core/flows/testSheetSchema";

/** Slots whose sum of powers of two is still an exact number, so that it can name a set of them. */
export const MAX_NAMED_SLOTS = 52;

/** What was seen in one step: input slots (plan order) and their readings in watts, aligned. */
export interface SeenStep {
  readonly powers: StepPowers;
  readonly slots: readonly number[];
  readonly readingsW: readonly number[];
  /** How much further than the display's noise a reading may be off, W; nowhere where it is left out. */
  readonly extraSdW?: readonly number[] | undefined;
}

/** A step as it is scored: its readings with their noise, and what every response row makes of its powers. */
export interface ScoredStep {
  readonly slots: Int32Array;
  readonly readingsW: Float64Array;
  readonly noiseVariance: Float64Array;
  readonly tables: StepTables;
  /** Row length of the factor: the number of readings. */
  readonly width: number;
}

/** The factor of one step as far as it is done; rows past `done` are room for the hypothesis at hand. */
export interface FactoredStep {
  done: number;
  /** Readings of the step in the order of the factor's rows. */
  readonly order: Int32Array;
  readonly factor: Float64Array;
  readonly residual: Float64Array;
  readonly response: Float64Array;
}

/** The factors of all steps as far as they are shared, with the information on the lasting background in them. */
export interface Beginning {
  readonly steps: readonly FactoredStep[];
  readonly m: Float64Array;
  readonly v: Float64Array;
  logDet: number;
  squares: number;
}

/** Steps that share their powers share their tables: they are worked out once for all that is asked of a set. */
const tablesOfRows = new WeakMap<readonly Float64Array[], WeakMap<StepPowers, StepTables>>();

function sharedTables(rows: readonly Float64Array[], powers: StepPowers): StepTables {
  const known = tablesOfRows.get(rows) ?? new WeakMap<StepPowers, StepTables>();
  tablesOfRows.set(rows, known);
  const tables = known.get(powers) ?? stepTables(rows, powers);
  known.set(powers, tables);
  return tables;
}

/** Tabulate a seen step for a set of hypotheses. */
export function scoredStep(set: HypothesisSet, step: SeenStep, noise: Noise): ScoredStep {
  return {
    slots: Int32Array.from(step.slots),
    readingsW: Float64Array.from(step.readingsW),
    width: step.slots.length,
    noiseVariance: Float64Array.from(
      step.readingsW,
      (reading, at) => readingVariance(noise, reading) + (step.extraSdW?.[at] ?? 0) ** 2,
    ),
    tables: sharedTables(set.rows, step.powers),
  };
}

/** Nothing factored yet: the prior alone. */
export function emptyBeginning(steps: readonly ScoredStep[], lastingCount: number): Beginning {
  const m = new Float64Array(lastingCount ** 2);
  for (let at = 0; at < lastingCount; at++) m[at * lastingCount + at] = 1;
  return {
    m,
    v: new Float64Array(lastingCount),
    logDet: 0,
    squares: 0,
    steps: steps.map(({ width }) => ({
      done: 0,
      order: new Int32Array(width),
      factor: new Float64Array(width * width),
      residual: new Float64Array(width),
      response: new Float64Array(width * lastingCount),
    })),
  };
}

/** Put the readings of slots in the named set first; returns how many they are. */
export function orderReadings(step: ScoredStep, factored: FactoredStep, unchanged: number): number {
  const isFirst = (slot: number) => slot < MAX_NAMED_SLOTS && Math.floor(unchanged / 2 ** slot) % 2 === 1;
  const all = Array.from(step.slots.keys());
  const first = all.filter((at) => isFirst(step.slots[at]!));
  factored.order.set([...first, ...all.filter((at) => !isFirst(step.slots[at]!))]);
  return first.length;
}
