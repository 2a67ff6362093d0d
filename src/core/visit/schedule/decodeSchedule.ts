import type { ScheduleProblem } from "@/core/visit/schedule/scheduleProblem";

const FEW_MIN = 1e-9;

/**
 * Turns an order of wishes into a schedule: again and again the most wished step that nothing holds up goes to whoever
 * can
 * begin it first. When a step opens a window, those that must begin in it come next; the opening waits until they can.
 * Buffers are kept and lists are flat, since an improvement decodes many thousands of orders.
 */
export class ScheduleDecoder {
  readonly startMin: Float64Array;
  readonly technician: Int32Array;
  /** Everybody who takes part in a step, a bit each. */
  readonly crew: Int32Array;
  /** Minutes by which windows were missed, all together; 0 in a schedule that holds. */
  lateMin = 0;
  private readonly completeMin: Float64Array;
  private readonly left: Int32Array;
  private readonly freeMin: Float64Array;
  private readonly at: Int32Array;
  private readonly done: Uint8Array;
  /** Steps that nothing holds up, the most wished last. */
  private readonly ready: Int32Array;
  private readyCount = 0;
  private readonly followerFrom: Int32Array;
  private readonly followerList: Int32Array;
  /** Per state: the steps that were put into it. */
  private readonly taken: readonly number[][];

  constructor(private readonly problem: ScheduleProblem) {
    const { count, technicians, followers } = problem;
    this.startMin = new Float64Array(count);
    this.completeMin = new Float64Array(count);
    this.technician = new Int32Array(count);
    this.crew = new Int32Array(count);
    this.taken = Array.from({ length: problem.stateCount }, () => []);
    this.left = new Int32Array(count);
    this.freeMin = new Float64Array(technicians);
    this.at = new Int32Array(technicians);
    this.done = new Uint8Array(count);
    this.ready = new Int32Array(count);
    this.followerList = Int32Array.from(followers.flat());
    this.followerFrom = new Int32Array(count + 1);
    for (let step = 0; step < count; step++)
      this.followerFrom[step + 1] = this.followerFrom[step]! + followers[step]!.length;
  }

  /**
   * The time until everything is complete, min; start and technician of each step stand in the fields.
   *
   * @param stay Whoever is free first does what can be begun where they are, before they walk.
   */
  decode(wishes: Float64Array, stay = false): number {
    const { count, needs, opened, startPlace, freeMin, earliestMin } = this.problem;
    this.done.fill(0);
    this.readyCount = 0;
    for (let step = 0; step < count; step++) {
      this.left[step] = needs[step]!.length;
      // Until a need says later; `finish` raises it.
      this.startMin[step] = earliestMin[step]!;
    }
    for (let step = 0; step < count; step++) if (this.left[step] === 0) this.insert(step, wishes);
    this.freeMin.set(freeMin);
    this.at.set(startPlace);
    for (const steps of this.taken) steps.length = 0;
    this.lateMin = 0;
    let makespan = 0;
    while (this.readyCount > 0) {
      const next = this.take(stay);
      this.place(next);
      const windows = opened[next]!;
      for (const follower of windows) this.openFor(next, follower);
      makespan = Math.max(makespan, this.finish(next, wishes));
      for (const follower of windows) {
        if (this.done[follower] === 1 || this.left[follower]! > 0) continue;
        this.remove(follower);
        this.place(follower);
        makespan = Math.max(makespan, this.finish(follower, wishes));
      }
    }
    return makespan;
  }

  private insert(step: number, wishes: Float64Array): void {
    let at = this.readyCount++;
    while (at > 0 && wishes[this.ready[at - 1]!]! > wishes[step]!) {
      this.ready[at] = this.ready[at - 1]!;
      at--;
    }
    this.ready[at] = step;
  }

  private take(stay: boolean): number {
    let at = this.readyCount - 1;
    if (stay) {
      let who = 0;
      for (let other = 1; other < this.problem.technicians; other++)
        if (this.freeMin[other]! < this.freeMin[who]!) who = other;
      const here = this.at[who]!;
      const by = this.freeMin[who]! + FEW_MIN;
      for (let which = at; which >= 0; which--) {
        const step = this.ready[which]!;
        if (this.problem.place[step] === here && this.startMin[step]! <= by) {
          at = which;
          break;
        }
      }
    }
    const step = this.ready[at]!;
    this.ready.copyWithin(at, at + 1, this.readyCount--);
    return step;
  }

  private remove(step: number): void {
    const at = this.ready.indexOf(step);
    this.ready.copyWithin(at, at + 1, this.readyCount--);
  }

  /** A step at whoever can begin it first; among equals, whoever is free last leaves the other for more. */
  private place(step: number): void {
    const { activeMin, place, walkMin, placeCount, technicians, waitMin, people, state } = this.problem;
    const ready = this.startMin[step]!;
    const here = place[step]!;
    let best = 0,
      bestStart = Infinity,
      bestArrival = -1;
    for (let who = 0; who < technicians; who++) {
      const from = this.at[who]!;
      const arrival = this.freeMin[who]! + (from < 0 ? 0 : walkMin[from * placeCount + here]!);
      const start = Math.max(ready, arrival);
      if (start < bestStart - FEW_MIN || (start < bestStart + FEW_MIN && arrival > bestArrival)) {
        best = who;
        bestStart = start;
        bestArrival = arrival;
      }
    }
    let crew = 1 << best;
    for (let more = 1; more < people[step]!; more++) {
      const next = this.nextFree(crew, here);
      crew |= 1 << next.who;
      bestStart = Math.max(bestStart, next.arrivalMin);
    }
    if (state[step]! >= 0) bestStart = this.whenState(step, bestStart);
    this.startMin[step] = bestStart;
    this.technician[step] = best;
    this.crew[step] = crew;
    for (let who = 0; who < technicians; who++) {
      if ((crew & (1 << who)) === 0) continue;
      this.freeMin[who] = bestStart + activeMin[step]!;
      this.at[who] = here;
    }
    this.completeMin[step] = bestStart + activeMin[step]! + waitMin[step]!;
  }

  /** Who of those that are not in a crew can be at a place first. */
  private nextFree(crew: number, here: number): { readonly who: number; readonly arrivalMin: number } {
    const { technicians, walkMin, placeCount } = this.problem;
    let who = -1,
      arrivalMin = Infinity;
    for (let other = 0; other < technicians; other++) {
      if ((crew & (1 << other)) !== 0) continue;
      const from = this.at[other]!;
      const arrival = this.freeMin[other]! + (from < 0 ? 0 : walkMin[from * placeCount + here]!);
      if (arrival < arrivalMin) {
        who = other;
        arrivalMin = arrival;
      }
    }
    return { who, arrivalMin };
  }

  /** The first moment from which on the site can be in the state that a step wants, until it is complete. */
  private whenState(step: number, fromMin: number): number {
    const { state, as, activeMin, waitMin } = this.problem;
    const lengthMin = activeMin[step]! + waitMin[step]!;
    const taken = this.taken[state[step]!]!;
    let startMin = fromMin;
    for (let isMoved = true; isMoved;) {
      isMoved = false;
      for (const other of taken) {
        if (as[other] === as[step]) continue;
        const endMin = this.completeMin[other]!;
        if (startMin < endMin - FEW_MIN && this.startMin[other]! < startMin + lengthMin - FEW_MIN) {
          startMin = endMin;
          isMoved = true;
        }
      }
    }
    taken.push(step);
    return startMin;
  }

  /** Put the opening later where its follower, with whoever is free for it, would else come too late. */
  private openFor(opening: number, follower: number): void {
    const { place, walkMin, placeCount, withinMin, activeMin, waitMin, technicians, people, state } = this.problem;
    // What several begin together, or in a state that is measured out, is not put off.
    if (people[opening]! > 1 || state[opening]! >= 0) return;
    const here = place[follower]!;
    const own = this.technician[opening]!;
    const inTime = this.completeMin[opening]! + withinMin[follower]!;
    // One's own walk begins when the opening ends: only another technician's lateness is cured by waiting.
    if (technicians === 1 || this.freeMin[own]! + walkMin[place[opening]! * placeCount + here]! <= inTime + FEW_MIN)
      return;
    let earliest = Infinity;
    for (let who = 0; who < technicians; who++)
      earliest = Math.min(
        earliest,
        this.freeMin[who]! + (this.at[who]! < 0 ? 0 : walkMin[this.at[who]! * placeCount + here]!),
      );
    const late = earliest - inTime;
    if (late <= FEW_MIN) return;
    this.startMin[opening] = this.startMin[opening]! + late;
    this.freeMin[own] = this.startMin[opening]! + activeMin[opening]!;
    this.completeMin[opening] = this.freeMin[own]! + waitMin[opening]!;
  }

  /** Let go what waited for a step; its completion, min. */
  private finish(step: number, wishes: Float64Array): number {
    const { opener, withinMin } = this.problem;
    const complete = this.completeMin[step]!;
    const from = opener[step]!;
    if (from >= 0) this.lateMin += Math.max(0, this.startMin[step]! - this.completeMin[from]! - withinMin[step]!);
    this.done[step] = 1;
    for (let which = this.followerFrom[step]!; which < this.followerFrom[step + 1]!; which++) {
      const follower = this.followerList[which]!;
      if (complete > this.startMin[follower]!) this.startMin[follower] = complete;
      if (--this.left[follower]! === 0) this.insert(follower, wishes);
    }
    return complete;
  }
}
