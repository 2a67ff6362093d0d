import { conductorsOf, siteTree } from "@/core/site/tree";
import { idealCt } from "@/core/site/idealCt";
import type { Ct, MeterInput, Site, SiteNode, WindowEntry } from "@/core/site/planSchema";

/** An input by its meter and number. */
export interface InputRef {
  readonly meter: string;
  readonly input: number;
}

/** A step on the board: along the run, or across to the next rail. */
export type Step = "along-to-grid" | "along-to-load" | "across-up" | "across-down";

/**
 * Put a new CT for an input round a conductor, otherwise as its kit wants it. An input that has a CT
 * already has that one moved instead.
 */
export function placeClamp(site: Site, to: InputRef, entry: WindowEntry): Site {
  const existing = clampOf(site, to);
  if (existing) return changeClamp(site, existing.id, { around: [entry] });
  const meter = site.meters.find((candidate) => candidate.id === to.meter);
  const input = meter?.inputs.find((candidate) => candidate.n === to.input);
  if (!meter || !input) return site;
  const ct: Ct = { ...idealCt(meter, input), id: freeCtId(site, `ct-${meter.id}-${input.n}`), around: [entry] };
  return { ...site, cts: [...site.cts, ct] };
}

/** Put a CT on every input that has none yet, where the plan wants it; those that are fitted stay as they are. */
export function placeAsPlanned(site: Site): Site {
  const wanted = site.meters.flatMap(({ id, inputs }) =>
    inputs.map((input) => ({ at: { meter: id, input: input.n }, input })),
  );
  return wanted.reduce((before, { at, input }) => {
    const [first, ...others] = input.measures;
    if (!first || clampOf(before, at)) return before;
    const placed = placeClamp(before, at, first);
    const ct = clampOf(placed, at)!;
    return others.reduce((own, entry) => toggleSharedConductor(own, ct.id, entry), placed);
  }, site);
}

/**
 * The inputs that go with one that has no CT yet: of the same meter, on the same circuit, each on a conductor of its
 * own. For example: of A1 of a three-phase meter: A1, A2, A3.
 */
export function phaseInputs(site: Site, at: InputRef): readonly MeterInput[] {
  const meter = site.meters.find(({ id }) => id === at.meter);
  const run = meter?.inputs.find(({ n }) => n === at.input)?.measures[0]?.run;
  return (meter?.inputs ?? []).filter(
    ({ n, measures }) =>
      measures.length === 1 && measures[0]!.run === run && !clampOf(site, { meter: at.meter, input: n }),
  );
}

/** Put the CTs of an input and of those that go with it round the conductors of one circuit, all at once. */
export function placePhases(site: Site, at: InputRef, run: string): Site {
  return phaseInputs(site, at).reduce(
    (before, { n, measures }) =>
      placeClamp(before, { meter: at.meter, input: n }, { run, conductor: measures[0]!.conductor }),
    site,
  );
}

/** Move one conductor of a CT's window to another; a window of one moves whole. */
export function moveClamp(site: Site, ctId: string, windowAt: number, entry: WindowEntry): Site {
  const ct = site.cts.find((candidate) => candidate.id === ctId);
  if (!ct || ct.around.some((other) => sameEntry(other, entry))) return site;
  const around = ct.around.length === 0 ? [entry] : ct.around.with(windowAt, entry);
  return changeClamp(site, ctId, { around });
}

/** Put one more conductor through a CT's window, or take it out again if it is there and not the last. */
export function toggleSharedConductor(site: Site, ctId: string, entry: WindowEntry): Site {
  const ct = site.cts.find((candidate) => candidate.id === ctId);
  if (!ct) return site;
  const without = ct.around.filter((other) => !sameEntry(other, entry));
  if (without.length === ct.around.length) return changeClamp(site, ctId, { around: [...ct.around, entry] });
  return without.length === 0 ? site : changeClamp(site, ctId, { around: without });
}

/** Turn a CT round: its printed arrow points the other way. */
export function flipClamp(site: Site, ctId: string): Site {
  const ct = site.cts.find((candidate) => candidate.id === ctId);
  return ct ? changeClamp(site, ctId, { arrow: ct.arrow === "to-load" ? "to-grid" : "to-load" }) : site;
}

/** Exchange a CT's two leads at the meter. */
export function swapLeads(site: Site, ctId: string): Site {
  const ct = site.cts.find((candidate) => candidate.id === ctId);
  return ct ? changeClamp(site, ctId, { leads: ct.leads === "straight" ? "swapped" : "straight" }) : site;
}

/** Plug a CT into another input; a CT that is there already takes the place that this one leaves. */
export function replugClamp(site: Site, ctId: string, to: InputRef): Site {
  const ct = site.cts.find((candidate) => candidate.id === ctId);
  if (!ct) return site;
  const occupant = clampOf(site, to);
  const freed = ct.plug;
  const moved = changeClamp(site, ctId, { plug: { meter: to.meter, input: to.input } });
  return occupant && occupant.id !== ctId ? changeClamp(moved, occupant.id, { plug: freed }) : moved;
}

/** CTs as they were at an earlier moment, those that are still there; what came since stays. */
export function restoreClamps(site: Site, earlier: readonly Ct[]): Site {
  const was = new Map(earlier.map((ct) => [ct.id, ct]));
  const cts = site.cts.map((ct) => was.get(ct.id) ?? ct);
  return cts.every((ct, at) => ct === site.cts[at]) ? site : { ...site, cts };
}

/** Take a CT off the site. */
export function removeClamp(site: Site, ctId: string): Site {
  return { ...site, cts: site.cts.filter((ct) => ct.id !== ctId) };
}

/** Change what is printed on or done with a CT: ratio, turns, window. */
export function changeClamp(site: Site, ctId: string, change: Partial<Omit<Ct, "id">>): Site {
  return { ...site, cts: site.cts.map((ct) => (ct.id === ctId ? { ...ct, ...change } : ct)) };
}

/**
 * The conductor one step away on the board: along the tree on the same conductor, or across to the next
 * rail in the order in which they are drawn. Undefined at the edge.
 *
 * For example: `steppedEntry(site, { run: "board", conductor: "L3" }, "across-down")` gives { run: "board", conductor:
 * "N" }
 */
export function steppedEntry(site: Site, from: WindowEntry, step: Step): WindowEntry | undefined {
  const tree = siteTree(site);
  const node = tree.nodeById.get(from.run);
  if (!node) return undefined;
  const along = (next: SiteNode | undefined): WindowEntry | undefined =>
    next && next.kind !== "grid" && conductorsOf(next, site).includes(from.conductor)
      ? { run: next.id, conductor: from.conductor }
      : undefined;
  if (step === "along-to-grid") return along(tree.nodeById.get(node.fedFrom ?? ""));
  if (step === "along-to-load")
    return (tree.childrenOf.get(node.id) ?? []).map(along).find((entry) => entry !== undefined);
  const rails = drawnOrder(site).flatMap((run) =>
    conductorsOf(run, site).map((conductor) => ({ run: run.id, conductor })),
  );
  const at = rails.findIndex((rail) => sameEntry(rail, from));
  return rails[at + (step === "across-down" ? 1 : -1)];
}

/** Runs in the order in which the board draws them: each board before what it feeds. */
export function drawnOrder(site: Site): readonly SiteNode[] {
  const { grid, childrenOf } = siteTree(site);
  const below = (id: string): readonly SiteNode[] =>
    (childrenOf.get(id) ?? []).flatMap((child) => [child, ...below(child.id)]);
  return below(grid.id);
}

/** The CT that is plugged into an input. */
export function clampOf(site: Site, at: InputRef): Ct | undefined {
  return site.cts.find((ct) => ct.plug?.meter === at.meter && ct.plug.input === at.input);
}

/** Whether two entries are the same conductor of the same run. */
export function sameEntry(a: WindowEntry, b: WindowEntry): boolean {
  return a.run === b.run && a.conductor === b.conductor;
}

function freeCtId(site: Site, wanted: string): string {
  const taken = new Set(site.cts.map((ct) => ct.id));
  if (!taken.has(wanted)) return wanted;
  for (let number = 2; ; number++) if (!taken.has(`${wanted}-${number}`)) return `${wanted}-${number}`;
}
