import { findCycle } from "@/core/visit/schedule/constraintGraph";
import type { ScheduleRequest } from "@/core/visit/schedule/scheduleSchema";

/** A request as numbers: steps and places by index, what comes before and after each. */
export interface ScheduleProblem {
  readonly count: number;
  readonly technicians: number;
  readonly ids: readonly string[];
  readonly activeMin: Float64Array;
  readonly waitMin: Float64Array;
  readonly earliestMin: Float64Array;
  readonly place: Int32Array;
  readonly placeCount: number;
  /** placeCount × placeCount. */
  readonly walkMin: Float64Array;
  readonly needs: readonly (readonly number[])[];
  readonly followers: readonly (readonly number[])[];
  /** Step that opens its window, or −1, and how long. */
  readonly opener: Int32Array;
  readonly withinMin: Float64Array;
  /** Per opener: the steps whose windows it opens. */
  readonly opened: readonly (readonly number[])[];
  readonly startPlace: Int32Array;
  readonly freeMin: Float64Array;
  readonly people: Int32Array;
  /** The state that a step wants, or −1, and as what. */
  readonly state: Int32Array;
  readonly as: Int32Array;
  readonly stateCount: number;
}

/** A request made ready to be solved, or the circle in its needs. */
export type ProblemOutcome =
  | {
      readonly kind: "problem";
      readonly problem: ScheduleProblem;
      readonly impossibleWindows: readonly {
        readonly step: string;
        readonly walkMin: number;
        readonly withinMin: number;
      }[];
    }
  | { readonly kind: "cycle"; readonly steps: readonly string[] };

/**
 * A request as a problem of numbers. Needs that lead in a circle are told, with the steps. A window that nobody can
 * keep (one technician, farther to walk than it stays open) is given up and told.
 */
export function scheduleProblem(request: ScheduleRequest): ProblemOutcome {
  const { steps, places, technicians } = request;
  const at = new Map(steps.map((step, index) => [step.id, index]));
  const placeAt = new Map(places.map((place, index) => [place.id, index]));
  const walkMin = walkTable(request, placeAt);
  const place = Int32Array.from(steps, (step) => placeAt.get(step.place)!);
  const opener = new Int32Array(steps.length).fill(-1);
  const withinMin = new Float64Array(steps.length);
  const impossibleWindows: { step: string; walkMin: number; withinMin: number }[] = [];
  steps.forEach((step, index) => {
    if (!step.window) return;
    const from = at.get(step.window.after)!;
    const walk = walkMin[place[from]! * places.length + place[index]!]!;
    if (technicians === 1 && walk > steps[from]!.waitMin + step.window.withinMin) {
      impossibleWindows.push({ step: step.id, walkMin: walk, withinMin: step.window.withinMin });
      return;
    }
    opener[index] = from;
    withinMin[index] = step.window.withinMin;
  });
  const needs = steps.map((step, index) =>
    [...new Set([...step.needs.map((id) => at.get(id)!), ...(step.window ? [at.get(step.window.after)!] : [])])].filter(
      (need) => need !== index,
    ),
  );
  const cycle = findCycle(needs);
  if (cycle) return { kind: "cycle", steps: cycle.map((index) => steps[index]!.id) };
  const states = numbered(steps.map(({ state }) => state?.of));
  const ways = numbered(steps.map(({ state }) => state && JSON.stringify([state.of, state.as])));
  const followers = steps.map((): number[] => []);
  needs.forEach((own, index) => {
    for (const need of own) followers[need]!.push(index);
  });
  const opened = steps.map((): number[] => []);
  opener.forEach((from, index) => {
    if (from >= 0) opened[from]!.push(index);
  });
  return {
    kind: "problem",
    impossibleWindows,
    problem: {
      count: steps.length,
      technicians,
      ids: steps.map(({ id }) => id),
      activeMin: Float64Array.from(steps, (step) => step.activeMin),
      waitMin: Float64Array.from(steps, (step) => step.waitMin),
      earliestMin: Float64Array.from(steps, (step) => step.earliestMin),
      place,
      placeCount: places.length,
      walkMin,
      needs,
      followers,
      opener,
      withinMin,
      opened,
      startPlace: Int32Array.from(
        { length: technicians },
        (_, who) => placeAt.get(request.starts[who]?.place ?? "") ?? -1,
      ),
      freeMin: Float64Array.from({ length: technicians }, (_, who) => request.starts[who]?.freeMin ?? 0),
      people: Int32Array.from(steps, (step) => Math.min(step.people, technicians)),
      state: states.of,
      as: ways.of,
      stateCount: states.count,
    },
  };
}

/** Each distinct text by a number, −1 where there is none. */
function numbered(texts: readonly (string | undefined)[]): { readonly of: Int32Array; readonly count: number } {
  const known = new Map<string, number>();
  for (const text of texts) if (text !== undefined && !known.has(text)) known.set(text, known.size);
  return { of: Int32Array.from(texts, (text) => (text === undefined ? -1 : known.get(text)!)), count: known.size };
}

/** Walking between places over others where that is shorter (Floyd and Warshall). */
function walkTable({ places, walkMin }: ScheduleRequest, placeAt: ReadonlyMap<string, number>): Float64Array {
  const count = places.length;
  const table = new Float64Array(count * count).fill(Infinity);
  for (let a = 0; a < count; a++) table[a * count + a] = 0;
  for (const [pair, minutes] of Object.entries(walkMin)) {
    const [a, b] = pair.split("|").map((id) => placeAt.get(id)!);
    for (const [from, to] of [
      [a!, b!],
      [b!, a!],
    ] as const)
      table[from * count + to] = Math.min(table[from * count + to]!, minutes);
  }
  for (let via = 0; via < count; via++)
    for (let a = 0; a < count; a++)
      for (let b = 0; b < count; b++) {
        table[a * count + b] = Math.min(table[a * count + b]!, table[a * count + via]! + table[via * count + b]!);
      }
  return table.map((minutes) => (Number.isFinite(minutes) ? minutes : 0));
}
