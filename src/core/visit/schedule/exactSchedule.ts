import type { Found } from "@/core/visit/schedule/searchSchedule";
import type { HeadsAndTails } from "@/core/visit/schedule/scheduleBound";
import type { Slices } from "@/core/slices";
import type { ScheduleProblem } from "@/core/visit/schedule/scheduleProblem";

const CLOSE_MIN = 1e-9;
const NODES_A_SLICE = 2000;

/**
 * The best schedule of a small problem without windows, states and steps for two, proven: every next step at every
 * technician, cut where what is left cannot beat the best so far. In slices. Undefined when the budget of nodes runs
 * out before the proof.
 *
 * @param known A schedule to beat.
 */
export function* exactSchedule(
  problem: ScheduleProblem,
  { tailMin }: HeadsAndTails,
  known: Found,
  boundMin: number,
  nodeBudget: number,
): Slices<Found | undefined> {
  const {
    count,
    technicians,
    needs,
    activeMin,
    waitMin,
    earliestMin,
    place,
    walkMin,
    placeCount,
    freeMin,
    startPlace,
  } = problem;
  const start = new Float64Array(count);
  const who = new Int32Array(count);
  const done = new Uint8Array(count);
  const free = freeMin.slice();
  const at = startPlace.slice();
  let best = known;
  let nodes = 0;
  let work = activeMin.reduce((sum, minutes) => sum + minutes, 0);
  const complete = (step: number) => start[step]! + activeMin[step]! + waitMin[step]!;

  function* go(placed: number, makespan: number, lastStart: number): Slices<boolean> {
    if (++nodes > nodeBudget) return false;
    if (nodes % NODES_A_SLICE === 0) yield;
    if (placed === count) {
      if (makespan < best.makespanMin - CLOSE_MIN)
        best = {
          makespanMin: makespan,
          lateMin: 0,
          startMin: start.slice(),
          technician: who.slice(),
          crew: who.map((one) => 1 << one),
        };
      return true;
    }
    if (best.makespanMin <= boundMin + CLOSE_MIN) return true;
    const shared = (free.reduce((sum, minutes) => sum + minutes, 0) + work) / technicians;
    if (shared >= best.makespanMin - CLOSE_MIN) return true;
    for (let step = 0; step < count; step++) {
      if (done[step] === 1 || needs[step]!.some((need) => done[need] === 0)) continue;
      for (let person = 0; person < technicians; person++) {
        // Two who are free at the same place and time are one choice.
        if (
          person > 0 &&
          Array.from({ length: person }, (_, other) => other).some(
            (other) => free[other] === free[person] && at[other] === at[person],
          )
        )
          continue;
        const begin = Math.max(
          earliestMin[step]!,
          free[person]! + (at[person]! < 0 ? 0 : walkMin[at[person]! * placeCount + place[step]!]!),
          ...needs[step]!.map(complete),
        );
        // Schedules are built in the order of their starts: every one of them is reached once.
        if (begin < lastStart - CLOSE_MIN || begin + activeMin[step]! + tailMin[step]! >= best.makespanMin - CLOSE_MIN)
          continue;
        const before = { free: free[person]!, at: at[person]! };
        start[step] = begin;
        who[step] = person;
        done[step] = 1;
        free[person] = begin + activeMin[step]!;
        at[person] = place[step]!;
        work -= activeMin[step]!;
        const isWhole = yield* go(placed + 1, Math.max(makespan, complete(step)), begin);
        work += activeMin[step]!;
        done[step] = 0;
        free[person] = before.free;
        at[person] = before.at;
        if (!isWhole) return false;
      }
    }
    return true;
  }
  return (yield* go(0, 0, -Infinity)) ? best : undefined;
}
