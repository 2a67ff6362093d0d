import type { ScheduleRequest } from "@/core/visit/schedule/scheduleSchema";

/** `later` begins at least so long after `earlier` begins; a negative time is a latest one. */
interface Lag {
  readonly earlier: number;
  readonly later: number;
  readonly leastMin: number;
}

/**
 * The shortest schedule of a few steps for one or two, by trying every way to share them and every order of each; the
 * starts of an order by relaxing all its lags until they hold, windows as latest starts. Undefined where none keeps
 * every window. No states and no steps for two.
 */
export function plainShortestMin(request: ScheduleRequest): number | undefined {
  const { steps, technicians, starts } = request;
  const at = new Map(steps.map(({ id }, index) => [id, index]));
  const walk = shortestWalks(request);
  const fixed: readonly Lag[] = steps.flatMap(({ needs, window }, index) => [
    ...[...needs, ...(window ? [window.after] : [])].map((id): Lag => {
      const need = steps[at.get(id)!]!;
      return { earlier: at.get(id)!, later: index, leastMin: need.activeMin + need.waitMin };
    }),
    ...(window
      ? [
          {
            earlier: index,
            later: at.get(window.after)!,
            leastMin: -lengthOf(steps, at.get(window.after)!) - window.withinMin,
          },
        ]
      : []),
  ]);
  let best: number | undefined;
  for (let share = 0; share < technicians ** steps.length; share++) {
    const lanes = Array.from({ length: technicians }, (_, who) =>
      steps.flatMap((_step, index) => (Math.floor(share / technicians ** index) % technicians === who ? [index] : [])),
    );
    for (const orders of products(lanes.map(permutations))) {
      const lags = [
        ...fixed,
        ...orders.flatMap((order) =>
          order.slice(1).map((later, before): Lag => {
            const earlier = order[before]!;
            return {
              earlier,
              later,
              leastMin: steps[earlier]!.activeMin + walk(steps[earlier]!.place, steps[later]!.place),
            };
          }),
        ),
      ];
      const first = steps.map(({ earliestMin }) => earliestMin);
      orders.forEach((order, who) => {
        const from = starts[who];
        const head = order[0];
        if (head !== undefined && from)
          first[head] = Math.max(first[head]!, from.freeMin + (from.place ? walk(from.place, steps[head]!.place) : 0));
      });
      const begun = relaxed(first, lags);
      if (!begun) continue;
      const whole = Math.max(...begun.map((start, index) => start + lengthOf(steps, index)));
      if (best === undefined || whole < best) best = whole;
    }
  }
  return best;
}

/** The earliest starts that keep every lag; undefined where they push each other for ever. */
function relaxed(first: readonly number[], lags: readonly Lag[]): readonly number[] | undefined {
  const start = [...first];
  for (let round = 0; round <= start.length; round++) {
    let isMoved = false;
    for (const { earlier, later, leastMin } of lags)
      if (start[later]! < start[earlier]! + leastMin - 1e-9) {
        start[later] = start[earlier]! + leastMin;
        isMoved = true;
      }
    if (!isMoved) return start;
  }
  return undefined;
}

function lengthOf(steps: ScheduleRequest["steps"], index: number): number {
  return steps[index]!.activeMin + steps[index]!.waitMin;
}

function shortestWalks({ places, walkMin }: ScheduleRequest): (a: string, b: string) => number {
  const known = (a: string, b: string) => (a === b ? 0 : (walkMin[`${a}|${b}`] ?? walkMin[`${b}|${a}`] ?? Infinity));
  const way = (a: string, b: string, left: number): number =>
    Math.min(
      known(a, b),
      ...(left === 0 ? [] : places.filter(({ id }) => id !== a).map(({ id }) => known(a, id) + way(id, b, left - 1))),
    );
  const table = new Map(
    places.flatMap(({ id: a }) => places.map(({ id: b }) => [`${a}|${b}`, way(a, b, places.length - 1)] as const)),
  );
  return (a, b) => {
    const minutes = table.get(`${a}|${b}`)!;
    return Number.isFinite(minutes) ? minutes : 0;
  };
}

function permutations(items: readonly number[]): readonly (readonly number[])[] {
  if (items.length < 2) return [items];
  return items.flatMap((item, at) => permutations(items.toSpliced(at, 1)).map((rest) => [item, ...rest]));
}

function products<T>(lists: readonly (readonly T[])[]): readonly (readonly T[])[] {
  return lists.reduce<readonly (readonly T[])[]>(
    (all, list) => all.flatMap((before) => list.map((item) => [...before, item])),
    [[]],
  );
}
