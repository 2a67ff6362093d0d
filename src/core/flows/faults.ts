import type { Conductor, Site, MeterInput } from "@/core/site/planSchema";
import type { Phase } from "@/core/phase";
import { STANDARD_PRIMARIES_A } from "@/core/site/standardPrimaries";
import { phasesOf, siteTree } from "@/core/site/tree";

/** How likely each kind of fault is on one input (or meter) against a right fitting. */
export const FAULT_PRIORS = {
  reversed: 0.05,
  "meter-reversed": 0.05,
  "wrong-phase": 0.03,
  exchanged: 0.04,
  "places-exchanged": 0.04,
  rotated: 0.01,
  "wrong-run": 0.02,
  ratio: 0.08,
  dead: 0.03,
  "taps-exchanged": 0.015,
} as const;

const TURNS_FACTORS = [2, 3];
const SMALLEST_RATIO_FACTOR = 0.1;
const LARGEST_RATIO_FACTOR = 10;
const SAME_FACTOR = 1e-9;

/** One thing that is wrong with the fitting of one meter. Inputs are named by their number. */
export type Fault =
  | { readonly kind: "reversed"; readonly meter: string; readonly input: number }
  | { readonly kind: "meter-reversed"; readonly meter: string }
  | { readonly kind: "wrong-phase"; readonly meter: string; readonly input: number; readonly conductor: Phase }
  | { readonly kind: "exchanged"; readonly meter: string; readonly inputs: readonly [number, number] }
  /** Each of the two CTs is round what the other was meant for, with its own arrow, and in its own input. */
  | { readonly kind: "places-exchanged"; readonly meter: string; readonly inputs: readonly [number, number] }
  /** Each listed input holds the CT meant for the next one, the last the first's. */
  | { readonly kind: "rotated"; readonly meter: string; readonly inputs: readonly [number, number, number] }
  | { readonly kind: "wrong-run"; readonly meter: string; readonly input: number; readonly run: string }
  | { readonly kind: "ratio"; readonly meter: string; readonly input: number; readonly gain: number }
  | { readonly kind: "dead"; readonly meter: string; readonly input: number }
  | { readonly kind: "taps-exchanged"; readonly meter: string; readonly taps: readonly [string, string] };

/** A fault of one input alone; the others move CTs or taps between places. */
export type InputFault = Extract<Fault, { readonly input: number }>;

/** A fault that could be there, with its prior probability. */
export interface CandidateFault {
  readonly fault: Fault;
  readonly prior: number;
}

/**
 * Every single fault that a site's meters can have, with its prior. Faults that move CTs or taps
 * between places come first, those of single inputs after them: the order in which they apply.
 *
 * `meter-reversed` needs two inputs: on a meter with one it is the same as `reversed`.
 *
 * For example: A three-phase meter of three 200 A inputs on a board that feeds a house, an inverter and test loads: 75
 * faults.
 */
export function candidateFaults(site: Site): readonly CandidateFault[] {
  const moving = site.meters.flatMap((meter): readonly Fault[] => {
    const numbers = meter.inputs.map((input) => input.n);
    return [
      ...pairs(numbers).map((inputs): Fault => ({ kind: "exchanged", meter: meter.id, inputs })),
      ...pairs(meter.inputs)
        .filter(([a, b]) => !isAlikeClamp(a, b))
        .map(([a, b]): Fault => ({ kind: "places-exchanged", meter: meter.id, inputs: [a.n, b.n] })),
      ...triples(numbers).flatMap(([a, b, c]): readonly Fault[] => [
        { kind: "rotated", meter: meter.id, inputs: [a, b, c] },
        { kind: "rotated", meter: meter.id, inputs: [a, c, b] },
      ]),
      ...pairs(Object.keys(meter.taps)).map((taps): Fault => ({ kind: "taps-exchanged", meter: meter.id, taps })),
      ...(numbers.length > 1 ? [{ kind: "meter-reversed", meter: meter.id } as const] : []),
    ];
  });
  const single = site.meters.flatMap((meter) => meter.inputs.flatMap((input) => inputFaults(site, meter.id, input)));
  return [...moving.map((fault) => ({ fault, prior: FAULT_PRIORS[fault.kind] })), ...single];
}

/** Whether it makes no difference if two CTs change their plugs or their places. */
function isAlikeClamp(a: MeterInput, b: MeterInput): boolean {
  return (
    a.arrow === b.arrow &&
    a.primaryA === b.primaryA &&
    a.secondary.value === b.secondary.value &&
    a.secondary.unit === b.secondary.unit
  );
}

/**
 * The factors by which a wrong ratio makes an input of this primary read: another standard primary, or
 * two or three turns, from 0.1 to 10 and each once.
 *
 * @example ratioFactors(1000).slice(0, 3) // [0.1, 0.12, 0.15]
 */
export function ratioFactors(primaryA: number): readonly number[] {
  const factors = [...STANDARD_PRIMARIES_A.map((other) => other / primaryA), ...TURNS_FACTORS]
    .filter((factor) => factor >= SMALLEST_RATIO_FACTOR - SAME_FACTOR && factor <= LARGEST_RATIO_FACTOR + SAME_FACTOR)
    .filter((factor) => Math.abs(factor - 1) > SAME_FACTOR)
    .sort((a, b) => a - b);
  return factors.filter((factor, at) => at === 0 || factor - factors[at - 1]! > SAME_FACTOR);
}

function inputFaults(site: Site, meter: string, input: MeterInput): readonly CandidateFault[] {
  const at = { meter, input: input.n };
  const factors = ratioFactors(input.primaryA);
  const faults: readonly Fault[] = [
    { kind: "reversed", ...at },
    { kind: "dead", ...at },
    ...otherPhases(site, input).map((conductor): Fault => ({ kind: "wrong-phase", ...at, conductor })),
    ...otherRuns(site, input).map((run): Fault => ({ kind: "wrong-run", ...at, run })),
    ...factors.map((gain): Fault => ({ kind: "ratio", ...at, gain })),
  ];
  return faults.map((fault) => ({
    fault,
    prior: fault.kind === "ratio" ? FAULT_PRIORS.ratio / factors.length : FAULT_PRIORS[fault.kind],
  }));
}

/** A CT slips to another phase of the run it is on; a window that holds several phases has no such slip. */
function otherPhases(site: Site, input: MeterInput): readonly Phase[] {
  const planned = onlyConductor(input);
  if (!planned) return [];
  const tree = siteTree(site);
  const shared = (["L1", "L2", "L3"] as const).filter((phase) =>
    input.measures.every((entry) => {
      const node = tree.nodeById.get(entry.run);
      return node !== undefined && phasesOf(node, site).includes(phase);
    }),
  );
  return shared.filter((phase) => phase !== planned);
}

function otherRuns(site: Site, input: MeterInput): readonly string[] {
  const planned = onlyConductor(input);
  if (!planned) return [];
  const measured = new Set(input.measures.map((entry) => entry.run));
  return siteTree(site)
    .runs.filter((run) => run.kind !== "test-load" && !measured.has(run.id))
    .filter((run) => planned === "N" || phasesOf(run, site).includes(planned))
    .map((run) => run.id);
}

function onlyConductor(input: MeterInput): Conductor | undefined {
  const conductors = new Set(input.measures.map((entry) => entry.conductor));
  return conductors.size === 1 ? [...conductors][0] : undefined;
}

function pairs<T>(items: readonly T[]): readonly (readonly [T, T])[] {
  return items.flatMap((first, at) => items.slice(at + 1).map((second) => [first, second] as const));
}

function triples<T>(items: readonly T[]): readonly (readonly [T, T, T])[] {
  return items.flatMap((first, at) =>
    pairs(items.slice(at + 1)).map(([second, third]) => [first, second, third] as const),
  );
}

/** Whether a fault is one of a single input. */
export function isInputFault(fault: Fault): fault is InputFault {
  return "input" in fault;
}
