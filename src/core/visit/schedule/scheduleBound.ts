import { topologicalOrder } from "@/core/visit/schedule/constraintGraph";
import type { ScheduleProblem } from "@/core/visit/schedule/scheduleProblem";

/** How early each step can begin, and how much follows from its end until all is complete, min. */
export interface HeadsAndTails {
  readonly headMin: Float64Array;
  /** Its own wait included. */
  readonly tailMin: Float64Array;
}

/**
 * Heads and tails along the needs. One technician walks between two steps that follow each other, so that the gap is at
 * least the walk; two need not.
 */
export function headsAndTails(problem: ScheduleProblem): HeadsAndTails {
  const {
    count,
    needs,
    followers,
    activeMin,
    waitMin,
    earliestMin,
    place,
    walkMin,
    placeCount,
    technicians,
    startPlace,
    freeMin,
  } = problem;
  const order = topologicalOrder(needs);
  const gap = (from: number, to: number) =>
    Math.max(waitMin[from]!, technicians === 1 ? walkMin[place[from]! * placeCount + place[to]!]! : 0);
  const headMin = new Float64Array(count);
  const tailMin = new Float64Array(count);
  for (const step of order) {
    const arrival = Math.min(
      ...Array.from(
        { length: technicians },
        (_, who) => freeMin[who]! + (startPlace[who]! < 0 ? 0 : walkMin[startPlace[who]! * placeCount + place[step]!]!),
      ),
    );
    headMin[step] = Math.max(
      earliestMin[step]!,
      arrival,
      ...needs[step]!.map((need) => headMin[need]! + activeMin[need]! + gap(need, step)),
    );
  }
  for (const step of order.toReversed())
    tailMin[step] = Math.max(
      waitMin[step]!,
      ...followers[step]!.map((follower) => gap(step, follower) + activeMin[follower]! + tailMin[follower]!),
    );
  return { headMin, tailMin };
}

/**
 * A time that no schedule beats, min: the longest chain of needs, and for every set of steps that begin late and are
 * followed by much, its least head, its work shared by all with the walking between its places, and its least tail.
 *
 * For example: Two steps of 10 min at one place for one technician, the first with a wait of 5: 20.
 */
export function scheduleBound(
  problem: ScheduleProblem,
  { headMin, tailMin }: HeadsAndTails = headsAndTails(problem),
): number {
  const { count, activeMin, place, technicians, people } = problem;
  let bound = stateBound(problem);
  for (let step = 0; step < count; step++) bound = Math.max(bound, headMin[step]! + activeMin[step]! + tailMin[step]!);
  const byTail = Array.from({ length: count }, (_, step) => step).toSorted((a, b) => tailMin[b]! - tailMin[a]!);
  const walking = new Map<string, number>();
  for (const head of new Set(headMin)) {
    let work = 0;
    const places = new Set<number>();
    for (const step of byTail) {
      if (headMin[step]! < head) continue;
      work += activeMin[step]! * people[step]!;
      places.add(place[step]!);
      const key = [...places].sort((a, b) => a - b).join(",");
      const walk = walking.get(key) ?? leastWalkMin(problem, [...places]);
      walking.set(key, walk);
      bound = Math.max(bound, head + (work + walk) / technicians + tailMin[step]!);
    }
  }
  return bound;
}

/** What a state is wanted as comes one after the other, each for as long as its longest step at least, min. */
function stateBound({ count, state, as, stateCount, activeMin, waitMin }: ScheduleProblem): number {
  const longest = Array.from({ length: stateCount }, () => new Map<number, number>());
  for (let step = 0; step < count; step++) {
    const ways = longest[state[step]!];
    ways?.set(as[step]!, Math.max(ways.get(as[step]!) ?? 0, activeMin[step]! + waitMin[step]!));
  }
  return Math.max(0, ...longest.map((ways) => [...ways.values()].reduce((sum, minutes) => sum + minutes, 0)));
}

/**
 * What all technicians together walk at least to be at every place: the shortest tree less one stretch for each further
 * technician.
 */
function leastWalkMin({ walkMin, placeCount, technicians }: ScheduleProblem, places: readonly number[]): number {
  const joined = new Set(places.slice(0, 1));
  const stretches: number[] = [];
  while (joined.size < places.length) {
    let best = Infinity,
      next = -1;
    for (const from of joined)
      for (const to of places)
        if (!joined.has(to) && walkMin[from * placeCount + to]! < best) {
          best = walkMin[from * placeCount + to]!;
          next = to;
        }
    joined.add(next);
    stretches.push(best);
  }
  return stretches
    .toSorted((a, b) => a - b)
    .slice(0, Math.max(0, stretches.length - (technicians - 1)))
    .reduce((sum, stretch) => sum + stretch, 0);
}
