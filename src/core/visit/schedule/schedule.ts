import { said, together } from "@/core/sentence";
import type { Finding } from "@/core/findings";
import { exactSchedule } from "@/core/visit/schedule/exactSchedule";
import { headsAndTails, scheduleBound } from "@/core/visit/schedule/scheduleBound";
import { scheduleProblem } from "@/core/visit/schedule/scheduleProblem";
import type { Schedule, ScheduleRequest } from "@/core/visit/schedule/scheduleSchema";
import { searchSchedule, type Found } from "@/core/visit/schedule/searchSchedule";
import { inOneGo, withProgress, type Slices } from "@/core/slices";
import { threeDigits } from "@/core/units";

/** Up to this many steps the best is looked for with a proof. */
const MOST_PROVEN = 12;
const NODE_BUDGET = 300_000;
/** Orders tried before the best of a small sheet is looked for with a proof. */
const FIRST_ORDERS = 4_000;
/** Orders tried, fewer for long sheets: each costs in step with the steps. */
const MOST_ORDERS = 60_000;
const ORDER_STEPS = 4_000_000;
const CLOSE_MIN = 1e-6;
const SOURCE = "Needs, windows and walking of the steps; longest chain and shared work as the bound";

/** A schedule, or the circle in its needs. */
export type ScheduleOutcome =
  | { readonly kind: "schedule"; readonly schedule: Schedule }
  | { readonly kind: "cycle"; readonly steps: readonly string[] };

/**
 * Who does what when: a schedule that keeps every need, window and walk, with a bound that no schedule beats. Small
 * ones are proven; larger ones are improved from good orders, the same for the same seed. Runs in slices with its
 * progress.
 *
 * For example: Two steps of 10 min at two places 3 min apart, one technician: makespanMin 23.
 */
export function* scheduleInSlices(request: ScheduleRequest): Slices<ScheduleOutcome, number> {
  const outcome = scheduleProblem(request);
  if (outcome.kind === "cycle") return outcome;
  const { problem, impossibleWindows } = outcome;
  yield 0;
  const times = headsAndTails(problem);
  yield 0;
  const bound = scheduleBound(problem, times);
  yield 0;
  const isSmall = problem.count <= MOST_PROVEN;
  const orders = Math.min(isSmall ? FIRST_ORDERS : MOST_ORDERS, Math.ceil(ORDER_STEPS / Math.max(1, problem.count)));
  let found = yield* searchSchedule(problem, times, bound, request.seed, orders);
  let proven = found.lateMin < CLOSE_MIN && found.makespanMin <= bound + CLOSE_MIN;
  let lowerBoundMin = bound;
  if (!proven && isSmall) {
    const exact = yield* withProgress(exactSchedule(problem, times, found, bound, NODE_BUDGET), 1);
    found = exact.found ?? found;
    proven = exact.found !== undefined && exact.isWhole;
    if (proven) lowerBoundMin = found.makespanMin;
    if (!exact.isWhole) {
      const more = yield* searchSchedule(problem, times, bound, request.seed, MOST_ORDERS);
      if (isBetter(more, found)) found = more;
    }
  }
  return {
    kind: "schedule",
    schedule: written(problem.ids, found, lowerBoundMin, proven, [
      ...windowFindings(impossibleWindows),
      ...lateFindings(found),
    ]),
  };
}

function isBetter(a: Found, b: Found): boolean {
  return a.lateMin < b.lateMin - CLOSE_MIN || (a.lateMin < b.lateMin + CLOSE_MIN && a.makespanMin < b.makespanMin);
}

/** The same in one go. */
export function schedule(request: ScheduleRequest): ScheduleOutcome {
  return inOneGo(scheduleInSlices(request));
}

function written(
  ids: readonly string[],
  found: Found,
  lowerBoundMin: number,
  proven: boolean,
  findings: readonly Finding[],
): Schedule {
  const assignments = ids.map((step, at) => {
    const technician = found.technician[at]!;
    const others = [0, 1, 2, 3].filter((who) => who !== technician && (found.crew[at]! & (1 << who)) !== 0);
    return { step, technician, ...(others.length > 0 ? { others } : {}), startMin: found.startMin[at]! };
  });
  const order = assignments.toSorted((a, b) => a.startMin - b.startMin).map(({ step }) => step);
  return { makespanMin: found.makespanMin, lowerBoundMin, proven, assignments, order, findings: [...findings] };
}

function windowFindings(
  windows: readonly { readonly step: string; readonly walkMin: number; readonly withinMin: number }[],
): readonly Finding[] {
  return windows.map(({ step, walkMin, withinMin }) => ({
    id: `window-impossible:${step}`,
    code: "window-impossible",
    severity: "fix",
    stage: "visit",
    subject: { kind: "step", step },
    title: "The way is longer than the window",
    detail: together(
      said`${threeDigits(walkMin)} min to walk, ${threeDigits(withinMin)} min of window, and nobody `,
      "at the other end.",
    ),
    cure: "Take a mate to the other end, or pair both beside each other before they are hung",
    source: SOURCE,
  }));
}

function lateFindings({ lateMin }: Found): readonly Finding[] {
  return lateMin < CLOSE_MIN
    ? []
    : [
        {
          id: "window-missed",
          code: "window-missed",
          severity: "fix",
          stage: "visit",
          subject: { kind: "job" },
          title: "A window is missed",
          detail: said`${threeDigits(lateMin)} min too late, all windows together.`,
          cure: "Take a mate, or do the two steps at one place",
          source: SOURCE,
        },
      ];
}
