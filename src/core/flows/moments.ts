import type { KnownDevice, TestSheet, TestStep } from "@/core/flows/testSheetSchema";
import { siteTree, phasesOf } from "@/core/site/tree";
import type { NodeKind, Site } from "@/core/site/planSchema";

/** Kinds whose power follows the sun while meters are read one after the other. */
const SUN_KINDS: readonly NodeKind[] = ["pv-inverter", "hybrid-inverter"];
/** Readings further apart than this, s, ask for the sun before and after. */
export const LONG_READING_S = 60;

/** What is read at one stop of the round through a step's readings. */
export type ReadingTurn =
  | { readonly kind: "sun"; readonly node: string; readonly when: "before" | "after" }
  | { readonly kind: "meter"; readonly meter: string };

/** How long the readings of a step took, from the first to the last that has a time. */
export interface ReadingSpan {
  /** s. */
  readonly seconds: number;
  /** Whether something follows the sun in the step, so that so long a while matters. */
  readonly isLong: boolean;
}

/**
 * The order in which a step's displays are read: what follows the sun first, then the meters, from the one that hangs
 * nearest to it to the furthest, then the sun once more where the meters hang apart. One meter alone needs no round.
 *
 * For example: `sun before, grid meter, outbuilding's meter, sun after`.
 */
export function readingTurns(site: Site, step: Pick<TestStep, "devices">): readonly ReadingTurn[] {
  const sun = sunDevices(site, step);
  const meters = walkOrder(site, sun[0]?.node);
  const isRound = sun.length > 0 && meters.length > 1;
  const turn = (when: "before" | "after") => sun.map(({ node }): ReadingTurn => ({ kind: "sun", node, when }));
  return [
    ...(isRound ? turn("before") : []),
    ...meters.map((meter): ReadingTurn => ({ kind: "meter", meter })),
    ...(isRound ? turn("after") : []),
  ];
}

/** What follows the sun in a step, and generates in it. */
export function sunDevices(site: Site, { devices }: Pick<TestStep, "devices">): readonly KnownDevice[] {
  const { nodeById } = siteTree(site);
  return devices.filter(
    ({ node, powerW, perPhase }) => SUN_KINDS.includes(nodeById.get(node)!.kind) && powerW < 0 && !perPhase,
  );
}

/** What runs in a step and has a display of its own; a test load has none. */
export function shownDevices(site: Site, { devices }: Pick<TestStep, "devices">): readonly KnownDevice[] {
  const { nodeById } = siteTree(site);
  return devices.filter(
    ({ node, powerW, perPhase }) => nodeById.get(node)!.kind !== "test-load" && powerW !== 0 && !perPhase,
  );
}

/**
 * Whether the sun is asked for again after the last reading: something runs by it, and the meters hang in different
 * places or were read so long one after the other that it may have changed.
 */
export function asksSunAfter(site: Site, step: TestStep): boolean {
  if (sunDevices(site, step).length === 0 || site.meters.length < 2) return false;
  const places = new Set(site.meters.map(({ place }) => place));
  return places.size > 1 || (readingSpan(site, step)?.isLong ?? false);
}

/** How long the readings of a step took; undefined while fewer than two have a time. */
export function readingSpan(site: Site, step: TestStep): ReadingSpan | undefined {
  const times = step.readings.flatMap(({ readAt }) => (readAt === undefined ? [] : [Date.parse(readAt)]));
  if (times.length < 2) return undefined;
  const seconds = Math.round((Math.max(...times) - Math.min(...times)) / 1000);
  return { seconds, isLong: seconds > LONG_READING_S && sunDevices(site, step).length > 0 };
}

/**
 * The sheet with each device that was read before and after at its mean, P = (b + a) / 2, and as much wider as a power
 * is that went evenly from the one to the other: σ² = σ₀² + (a − b)² / 12.
 */
export function atMeanMoments(sheet: TestSheet): TestSheet {
  const isRead = ({ afterW, powerW }: KnownDevice) => afterW !== undefined && afterW !== powerW;
  if (!sheet.steps.some(({ devices }) => devices.some(isRead))) return sheet;
  const meant = (device: KnownDevice): KnownDevice => {
    if (!isRead(device)) return device;
    const { powerW, afterW = powerW, toleranceW } = device;
    return {
      ...device,
      powerW: (powerW + afterW) / 2,
      toleranceW: Math.hypot(toleranceW, (afterW - powerW) / Math.sqrt(12)),
    };
  };
  return { ...sheet, steps: sheet.steps.map((step) => ({ ...step, devices: step.devices.map(meant) })) };
}

/**
 * How far the readings of a step may be off because each meter was read at another moment of a sun that changed from
 * `powerW` to `afterW`, W, aligned with the readings. A meter at the part f of the round is off by |f − ½| · |a − b|,
 * spread over the device's phases; with one meter, or without a second look at the sun, nothing is added here.
 *
 * For example: −3200 W before and −2600 W after, a single-phase inverter, two meters: 300 W at each of them.
 */
export function momentSpreadW(site: Site, step: TestStep): readonly number[] | undefined {
  const { nodeById } = siteTree(site);
  const perPhaseW = step.devices.reduce((sum, { node, powerW, afterW = powerW }) => {
    const phases = phasesOf(nodeById.get(node)!, site).length;
    return sum + Math.abs(afterW - powerW) / Math.max(1, phases);
  }, 0);
  const order = readingTurns(site, step).flatMap((turn) => (turn.kind === "meter" ? [turn.meter] : []));
  if (perPhaseW === 0 || order.length < 2) return undefined;
  return step.readings.map(({ meter }) => Math.abs(order.indexOf(meter) / (order.length - 1) - 0.5) * perPhaseW);
}

/** Meters from the one nearest to where the sun is read to the furthest; those without a place stay as planned. */
function walkOrder({ meters, nodes, ways }: Site, from: string | undefined): readonly string[] {
  let place = nodes.find(({ id }) => id === from)?.place;
  const left = [...meters];
  const order: string[] = [];
  while (left.length > 0) {
    const minutes = left.map((meter) => walkMin(ways, place, meter.place));
    const nearest = minutes.indexOf(Math.min(...minutes));
    const [next] = left.splice(nearest, 1);
    order.push(next!.id);
    place = next!.place ?? place;
  }
  return order;
}

/** Minutes from one place to another; an unknown way is longer than any known one. */
function walkMin(ways: Site["ways"], from: string | undefined, to: string | undefined): number {
  if (from === undefined || to === undefined || from === to) return 0;
  const way = ways.find((own) => (own.from === from && own.to === to) || (own.from === to && own.to === from));
  return way?.walkMin ?? Number.MAX_VALUE;
}
