import type { ScheduleProblem } from "@/core/visit/schedule/scheduleProblem";

const FEW_MIN = 1e-9;

/**
 * Turns an order of wishes into a schedule: again and again the most wished step that nothing holds up goes to whoever
 * can begin it first. While a window is open, other work goes first only as long as its follower can still begin in
 * it; where one is late all the same, its opening is put off.
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

  /** Followers of windows that are open, or open as soon as their opening is complete. */
  private readonly pending: number[] = [];
  /** In the order in which they were placed, where there are windows. */
  private readonly placed: number[] = [];
  private readonly hasWindows: boolean;
  private readonly notBeforeMin: Float64Array;

  constructor(private readonly problem: ScheduleProblem) {
    const { count, technicians, followers } = problem;
    this.hasWindows = problem.opener.some((from) => from >= 0);
    this.notBeforeMin = new Float64Array(count);
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
    const { count, needs, opened, opener, startPlace, freeMin, earliestMin } = this.problem;
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
    this.pending.length = 0;
    this.placed.length = 0;
    while (this.readyCount > 0) {
      const next = this.pending.length > 0 ? this.takeInTime(stay) : this.take(stay);
      this.place(next);
      this.placed.push(next);
      makespan = Math.max(makespan, this.finish(next, wishes));
      for (const follower of opened[next]!) this.pending.push(follower);
      if (opener[next]! >= 0) this.pending.splice(this.pending.indexOf(next), 1);
    }
    return this.hasWindows ? this.putOff(makespan) : makespan;
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
    return this.takeAt(at);
  }

  private takeAt(at: number): number {
    const step = this.ready[at]!;
    this.ready.copyWithin(at, at + 1, this.readyCount--);
    return step;
  }

  /**
   * The most wished step that leaves every open window time enough; where none does, what the most urgent window waits
   * for.
   */
  private takeInTime(stay: boolean): number {
    for (let at = this.readyCount - 1; at >= 0; at--)
      if (this.leavesTime(this.ready[at]!))
        return stay && at === this.readyCount - 1 ? this.take(stay) : this.takeAt(at);
    const urgent = this.pending.reduce((first, follower) =>
      this.dueMin(follower) < this.dueMin(first) ? follower : first,
    );
    for (let at = this.readyCount - 1; at >= 0; at--)
      if (this.ready[at] === urgent || this.leadsTo(this.ready[at]!, urgent)) return this.takeAt(at);
    return this.take(stay);
  }

  /** When the follower of a window that is open has to begin, min. */
  private dueMin(follower: number): number {
    return this.completeMin[this.problem.opener[follower]!]! + this.problem.withinMin[follower]!;
  }

  /** Whether, with this step done first by whoever can begin it first, every open window can still be kept. */
  private leavesTime(step: number): boolean {
    const { place, activeMin, walkMin, placeCount, technicians, people } = this.problem;
    if (people[step]! > 1) return this.pending.includes(step);
    const here = place[step]!;
    let [best, bestStart] = [0, Infinity];
    for (let who = 0; who < technicians; who++) {
      const start = Math.max(this.startMin[step]!, this.arrivalMin(who, here));
      if (start < bestStart) [best, bestStart] = [who, start];
    }
    for (const follower of this.pending) {
      if (follower === step) continue;
      const there = place[follower]!;
      let arrival = bestStart + activeMin[step]! + walkMin[here * placeCount + there]!;
      for (let who = 0; who < technicians; who++)
        if (who !== best) arrival = Math.min(arrival, this.arrivalMin(who, there));
      if (arrival + this.missingMin(follower, step) > this.dueMin(follower) + FEW_MIN) return false;
    }
    return true;
  }

  private arrivalMin(who: number, there: number): number {
    const from = this.at[who]!;
    return this.freeMin[who]! + (from < 0 ? 0 : this.problem.walkMin[from * this.problem.placeCount + there]!);
  }

  /** What a follower needs and is not done yet, but for one step: their own time one after the other, min. */
  private missingMin(follower: number, but: number): number {
    if (this.left[follower] === 0) return 0;
    const { needs, activeMin, waitMin } = this.problem;
    let most = 0;
    for (const need of needs[follower]!) {
      if (this.done[need] === 1) continue;
      const own = need === but ? waitMin[need]! : activeMin[need]! + waitMin[need]! + this.missingMin(need, but);
      most = Math.max(most, own);
    }
    return most;
  }

  private leadsTo(step: number, target: number): boolean {
    return this.problem.needs[target]!.some(
      (need) => this.done[need] === 0 && (need === step || this.leadsTo(step, need)),
    );
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

  /**
   * Openings put off until no follower is late, everything behind them with them, everybody in the order they have;
   * what stays late is told. The time until everything is complete, min.
   */
  private putOff(makespanMin: number): number {
    const { opener, withinMin, activeMin, waitMin } = this.problem;
    if (this.lateMin < FEW_MIN) return makespanMin;
    this.notBeforeMin.set(this.problem.earliestMin);
    let whole = makespanMin;
    for (let round = 0; round < this.placed.length; round++) {
      const before = this.lateMin;
      const late = this.placed.find((step) => this.lateOf(step) > FEW_MIN);
      if (late === undefined) return whole;
      const from = opener[late]!;
      const kept = this.notBeforeMin[from]!;
      this.notBeforeMin[from] = this.startMin[late]! - withinMin[late]! - activeMin[from]! - waitMin[from]!;
      whole = this.placeAgain();
      if (this.lateMin > before - FEW_MIN) {
        this.notBeforeMin[from] = kept;
        return this.placeAgain();
      }
    }
    return whole;
  }

  private lateOf(step: number): number {
    const from = this.problem.opener[step]!;
    return from < 0 ? 0 : Math.max(0, this.startMin[step]! - this.completeMin[from]! - this.problem.withinMin[step]!);
  }

  /** The same steps by the same people in the same order, each as early as it can be. */
  private placeAgain(): number {
    const { technicians, needs, place, walkMin, placeCount, activeMin, waitMin, state, startPlace, freeMin } =
      this.problem;
    this.freeMin.set(freeMin);
    this.at.set(startPlace);
    for (const steps of this.taken) steps.length = 0;
    let makespanMin = 0;
    for (const step of this.placed) {
      const here = place[step]!;
      const crew = this.crew[step]!;
      let start = this.notBeforeMin[step]!;
      for (const need of needs[step]!) start = Math.max(start, this.completeMin[need]!);
      for (let who = 0; who < technicians; who++) {
        if ((crew & (1 << who)) === 0) continue;
        const from = this.at[who]!;
        start = Math.max(start, this.freeMin[who]! + (from < 0 ? 0 : walkMin[from * placeCount + here]!));
      }
      if (state[step]! >= 0) start = this.whenState(step, start);
      this.startMin[step] = start;
      this.completeMin[step] = start + activeMin[step]! + waitMin[step]!;
      for (let who = 0; who < technicians; who++) {
        if ((crew & (1 << who)) === 0) continue;
        this.freeMin[who] = start + activeMin[step]!;
        this.at[who] = here;
      }
      makespanMin = Math.max(makespanMin, this.completeMin[step]!);
    }
    this.lateMin = this.placed.reduce((sum, step) => sum + this.lateOf(step), 0);
    return makespanMin;
  }

  /** Let go what waited for a step; its completion, min. */
  private finish(step: number, wishes: Float64Array): number {
    const complete = this.completeMin[step]!;
    this.lateMin += this.lateOf(step);
    this.done[step] = 1;
    for (let which = this.followerFrom[step]!; which < this.followerFrom[step + 1]!; which++) {
      const follower = this.followerList[which]!;
      if (complete > this.startMin[follower]!) this.startMin[follower] = complete;
      if (--this.left[follower]! === 0) this.insert(follower, wishes);
    }
    return complete;
  }
}
