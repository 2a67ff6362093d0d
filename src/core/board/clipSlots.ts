import type { Conductor, Site } from "@/core/site/planSchema";

/** One conductor of a CT's window, and how many CTs stand before it on its rail. */
export interface Slot {
  readonly ct: string;
  readonly windowAt: number;
  readonly slot: number;
}

/** The first free slot on its rail for every conductor of every CT, in plan order. */
export function clipSlots(site: Site): ReadonlyMap<string, readonly Slot[]> {
  const slots = new Map<string, Slot[]>();
  for (const ct of inMeterOrder(site)) {
    ct.around.forEach((entry, windowAt) => {
      const key = railKey(entry.run, entry.conductor);
      const onRail = slots.get(key) ?? [];
      slots.set(key, [...onRail, { ct: ct.id, windowAt, slot: onRail.length }]);
    });
  }
  return slots;
}

/** CTs by the input they feed, so that a CT keeps its slot while others are edited. */
function inMeterOrder(site: Site) {
  const rank = (ct: Site["cts"][number]) => {
    const meter = site.meters.findIndex((candidate) => candidate.id === ct.plug?.meter);
    return meter < 0 ? Infinity : meter * 1000 + (ct.plug?.input ?? 0);
  };
  return site.cts.toSorted((a, b) => {
    const [first, second] = [rank(a), rank(b)];
    return first === second ? a.id.localeCompare(b.id) : first - second;
  });
}

/** Names a rail. */
export function railKey(run: string, conductor: Conductor): string {
  return JSON.stringify([run, conductor]);
}
