import type { Site, Way } from "@/core/site/planSchema";

/** How far it is between two places. A part is undefined where no chain of ways gives it. */
export interface Distance {
  readonly walkMin: number | undefined;
  readonly cableM: number | undefined;
  /** Of a direct way only: straight lines do not add up. */
  readonly straightM: number | undefined;
}

/**
 * Walking time, cable and straight distance between two places, over other places where that is shorter or the only
 * way. Each is the shortest of its own kind.
 *
 * For example: With ways hall–garage 12 m and garage–carport 9 m: hall to carport 21 m of cable.
 */
export function distanceBetween(site: Site, from: string | undefined, to: string | undefined): Distance {
  if (from === undefined || to === undefined) return { walkMin: undefined, cableM: undefined, straightM: undefined };
  if (from === to) return { walkMin: 0, cableM: 0, straightM: 0 };
  return {
    walkMin: shortest(site.ways, from, to, (way) => way.walkMin),
    cableM: shortest(site.ways, from, to, (way) => way.cableM),
    straightM: directWay(site, from, to)?.straightM,
  };
}

/** The way between two places, whichever way round it stands in the plan. */
export function directWay(site: Site, a: string, b: string): Way | undefined {
  return site.ways.find((way) => (way.from === a && way.to === b) || (way.from === b && way.to === a));
}

/** Dijkstra over the few ways of a site. */
function shortest(
  ways: readonly Way[],
  from: string,
  to: string,
  lengthOf: (way: Way) => number | undefined,
): number | undefined {
  const best = new Map<string, number>([[from, 0]]);
  const done = new Set<string>();
  for (;;) {
    const next = [...best].filter(([place]) => !done.has(place)).toSorted((a, b) => a[1] - b[1])[0];
    if (!next) return undefined;
    const [place, length] = next;
    if (place === to) return length;
    done.add(place);
    for (const way of ways) {
      const other = way.from === place ? way.to : way.to === place ? way.from : undefined;
      const step = lengthOf(way);
      if (other === undefined || step === undefined) continue;
      best.set(other, Math.min(best.get(other) ?? Infinity, length + step));
    }
  }
}
