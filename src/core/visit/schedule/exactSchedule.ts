import type { Found } from "@/core/visit/schedule/searchSchedule";
import type { HeadsAndTails } from "@/core/visit/schedule/scheduleBound";
import type { Slices } from "@/core/slices";
import type { ScheduleProblem } from "@/core/visit/schedule/scheduleProblem";

const CLOSE_MIN = 1e-9;
const NODES_A_SLICE = 2000;

/** What a search that tries everything found; `isWhole` where it came to its end, so that nothing is better. */
export interface ExactOutcome {
  /** Keeps every window; undefined where no schedule that was met does. */
  readonly found: Found | undefined;
  readonly isWhole: boolean;
}

/**
 * The best schedule of a small problem that keeps every window: every next step with every crew, in the order of the
 * starts, cut where what is left cannot beat the best so far. An opening is put off where its follower would else come
 * too late, and everything behind it with it. In slices.
 *
 * @param known A schedule to beat; one that misses a window is beaten by any that misses none.
 */
export function exactSchedule(
  problem: ScheduleProblem,
  times: HeadsAndTails,
  known: Found,
  boundMin: number,
  nodeBudget: number,
): Slices<ExactOutcome> {
  return new ExactSearch(problem, times, known, boundMin, nodeBudget).run();
}

class ExactSearch {
  private readonly order: number[] = [];
  private readonly crewOf: Int32Array;
  private readonly startMin: Float64Array;
  private readonly isPlaced: Uint8Array;
  /** What an opening was put off to, min. */
  private readonly notBeforeMin: Float64Array;
  private readonly freeMin: Float64Array;
  private readonly at: Int32Array;
  private readonly windowCount: number;
  private workMin: number;
  private bestMin: number;
  private found: Found | undefined;
  private nodes = 0;

  constructor(
    private readonly problem: ScheduleProblem,
    private readonly times: HeadsAndTails,
    known: Found,
    private readonly boundMin: number,
    private readonly nodeBudget: number,
  ) {
    const { count, technicians, activeMin, people } = problem;
    this.crewOf = new Int32Array(count);
    this.startMin = new Float64Array(count);
    this.isPlaced = new Uint8Array(count);
    this.notBeforeMin = problem.earliestMin.slice();
    this.freeMin = new Float64Array(technicians);
    this.at = new Int32Array(technicians);
    this.windowCount = problem.opener.reduce((sum, from) => sum + (from < 0 ? 0 : 1), 0);
    this.workMin = activeMin.reduce((sum, minutes, step) => sum + minutes * people[step]!, 0);
    this.found = known.lateMin < CLOSE_MIN ? known : undefined;
    this.bestMin = this.found?.makespanMin ?? Infinity;
  }

  *run(): Slices<ExactOutcome> {
    const isWhole = yield* this.go(0);
    return { found: this.found, isWhole };
  }

  /** @returns Whether everything below was looked at. */
  private *go(makespanMin: number): Slices<boolean> {
    const { count, needs, activeMin, people } = this.problem;
    if (++this.nodes > this.nodeBudget) return false;
    if (this.nodes % NODES_A_SLICE === 0) yield;
    if (this.order.length === count) {
      if (makespanMin < this.bestMin - CLOSE_MIN) this.keep(makespanMin);
      return true;
    }
    if (this.bestMin <= this.boundMin + CLOSE_MIN) return true;
    for (let step = 0; step < count; step++) {
      if (this.isPlaced[step] === 1 || needs[step]!.some((need) => this.isPlaced[need] === 0)) continue;
      for (const crew of this.crewsFor(people[step]!)) {
        const before = this.notBeforeMin.slice();
        this.order.push(step);
        this.crewOf[step] = crew;
        this.isPlaced[step] = 1;
        this.workMin -= activeMin[step]! * people[step]!;
        const reached = this.placeAll();
        const isWhole = reached === undefined || !this.canBeat(step) || (yield* this.go(reached));
        this.workMin += activeMin[step]! * people[step]!;
        this.isPlaced[step] = 0;
        this.order.pop();
        this.notBeforeMin.set(before);
        this.placeInOrder();
        if (!isWhole) return false;
      }
    }
    return true;
  }

  private keep(makespanMin: number): void {
    this.bestMin = makespanMin;
    this.found = {
      makespanMin,
      lateMin: 0,
      startMin: this.startMin.slice(),
      technician: this.crewOf.map((crew) => 31 - Math.clz32(crew & -crew)),
      crew: this.crewOf.slice(),
    };
  }

  /** Whether what follows from the step, and the work that is left, still ends before the best. */
  private canBeat(step: number): boolean {
    const { activeMin, technicians } = this.problem;
    const shared = (this.freeMin.reduce((sum, minutes) => sum + minutes, 0) + this.workMin) / technicians;
    const own = this.startMin[step]! + activeMin[step]! + this.times.tailMin[step]!;
    return Math.max(shared, own) < this.bestMin - CLOSE_MIN;
  }

  /**
   * Every crew of a size; two who are free at the same place and time are one choice, but not where a window may still
   * put off what one of them does.
   */
  private crewsFor(size: number): readonly number[] {
    const { technicians } = this.problem;
    const seen = new Set<string>();
    return Array.from({ length: 1 << technicians }, (_, crew) => crew).filter((crew) => {
      const members = Array.from({ length: technicians }, (_, who) => who).filter((who) => (crew & (1 << who)) !== 0);
      if (members.length !== size) return false;
      const key = members
        .map((who) => `${this.freeMin[who]} ${this.at[who]} ${this.windowCount > 0 ? this.lastOf(who) : ""}`)
        .sort()
        .join("|");
      const isNew = !seen.has(key);
      seen.add(key);
      return isNew;
    });
  }

  private lastOf(who: number): number {
    return this.order.findLast((step) => (this.crewOf[step]! & (1 << who)) !== 0) ?? -1;
  }

  /** All that is in the order, openings put off until no follower is late; undefined where that never ends. */
  private placeAll(): number | undefined {
    const { opener, withinMin, activeMin, waitMin } = this.problem;
    let [before, beforeMin] = [-1, Infinity];
    // As many rounds as windows and steps settle every start that can be settled (Bellman and Ford).
    for (let round = 0; round <= this.windowCount * this.order.length; round++) {
      const makespanMin = this.placeInOrder();
      // A follower that moves with its opening is late however far that is put off.
      if (before >= 0 && this.lateMin(before) > beforeMin - CLOSE_MIN) return undefined;
      const late = this.order.find((step) => this.lateMin(step) > CLOSE_MIN);
      if (late === undefined) return makespanMin;
      [before, beforeMin] = [late, this.lateMin(late)];
      const from = opener[late]!;
      this.notBeforeMin[from] = this.startMin[late]! - withinMin[late]! - activeMin[from]! - waitMin[from]!;
      if (this.notBeforeMin[from] + activeMin[from]! >= this.bestMin) return undefined;
    }
    return undefined;
  }

  private lateMin(step: number): number {
    const { opener, withinMin } = this.problem;
    const from = opener[step]!;
    return from < 0 ? 0 : this.startMin[step]! - this.completeMin(from) - withinMin[step]!;
  }

  private completeMin(step: number): number {
    return this.startMin[step]! + this.problem.activeMin[step]! + this.problem.waitMin[step]!;
  }

  /** The earliest starts of the order as it is; the time until all of it is complete. */
  private placeInOrder(): number {
    const { technicians, needs, place, placeCount, walkMin, activeMin, startPlace, state, as } = this.problem;
    this.freeMin.set(this.problem.freeMin);
    this.at.set(startPlace);
    let [makespanMin, lastMin] = [0, 0];
    for (const [index, step] of this.order.entries()) {
      let start = Math.max(this.notBeforeMin[step]!, lastMin);
      for (const need of needs[step]!) start = Math.max(start, this.completeMin(need));
      const crew = this.crewOf[step]!;
      for (let who = 0; who < technicians; who++) {
        if ((crew & (1 << who)) === 0) continue;
        const from = this.at[who]!;
        start = Math.max(start, this.freeMin[who]! + (from < 0 ? 0 : walkMin[from * placeCount + place[step]!]!));
      }
      // Who began before in another state of the site is complete before this one begins.
      if (state[step]! >= 0)
        for (let before = 0; before < index; before++) {
          const other = this.order[before]!;
          if (state[other] === state[step] && as[other] !== as[step]) start = Math.max(start, this.completeMin(other));
        }
      this.startMin[step] = start;
      lastMin = start;
      for (let who = 0; who < technicians; who++) {
        if ((crew & (1 << who)) === 0) continue;
        this.freeMin[who] = start + activeMin[step]!;
        this.at[who] = place[step]!;
      }
      makespanMin = Math.max(makespanMin, this.completeMin(step));
    }
    return makespanMin;
  }
}
