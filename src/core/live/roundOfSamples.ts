import { powerText } from "@/core/units";
import { takeReading, type TakenReading, type TimedPower } from "@/core/live/takeReading";
import type { Noise } from "@/core/flows/testSheetSchema";
import type { Site } from "@/core/site/planSchema";

/** A power of a meter's input, or of a device itself, as it was read. */
export interface SiteSample extends TimedPower {
  readonly device: string;
  readonly meter: string | undefined;
  readonly input: number | undefined;
}

/** The readings of one step as they come from live values, or why they are not taken yet. */
export type Round =
  | {
      readonly kind: "taken";
      readonly readings: readonly { readonly meter: string; readonly input: number; readonly powerW: number }[];
      /** Devices of the plan that say their own power, W, positive as their kit counts it. */
      readonly own: ReadonlyMap<string, number>;
      readonly spreadW: number;
      readonly count: number;
    }
  | { readonly kind: "not-yet"; readonly why: string };

/**
 * The mean of every connected input, once all of them stand still since a moment.
 *
 * For example: two inputs, one of them moving by 300 W: not yet, "A2 moves by 300 W".
 *
 * @param sinceMs Nothing before this counts: the switching that the step is of.
 */
export function roundOfSamples(
  site: Site,
  samples: readonly SiteSample[],
  at: { readonly sinceMs: number; readonly nowMs: number; readonly windowS: number; readonly noise: Noise },
  tagOf: (meter: string, input: number) => string,
): Round {
  const recent = samples.filter(({ atMs }) => atMs >= at.sinceMs);
  const inputs = site.meters.flatMap((meter) =>
    meter.inputs
      .filter(({ n }) => samples.some((own) => own.meter === meter.id && own.input === n))
      .map(({ n }) => ({ meter: meter.id, input: n })),
  );
  if (inputs.length === 0) return { kind: "not-yet", why: "waiting for the first reading" };
  const readings: { meter: string; input: number; powerW: number }[] = [];
  let spreadW = 0;
  let count = Infinity;
  for (const { meter, input } of inputs) {
    const taken = takeReading(
      recent.filter((own) => own.meter === meter && own.input === input),
      at,
    );
    if (taken.kind !== "steady") return { kind: "not-yet", why: notYet(taken, tagOf(meter, input)) };
    readings.push({ meter, input, powerW: Math.round(taken.powerW) });
    spreadW = Math.max(spreadW, taken.spreadW);
    count = Math.min(count, taken.count);
  }
  return { kind: "taken", readings, own: ownPowers(site, recent, at), spreadW, count };
}

function notYet(taken: Exclude<TakenReading, { kind: "steady" }>, tag: string): string {
  return taken.kind === "moving"
    ? `${tag} moves by ${powerText(Math.abs(Math.round(taken.changeW)))}; it is read when it stands still`
    : `reading ${tag}, ${taken.count} so far`;
}

function ownPowers(
  site: Site,
  recent: readonly SiteSample[],
  at: Parameters<typeof takeReading>[1],
): ReadonlyMap<string, number> {
  const nodes = site.nodes.map(({ id }) => id).filter((id) => recent.some((own) => isOwn(own, id)));
  return new Map(
    nodes.flatMap((id) => {
      const taken = takeReading(
        recent.filter((own) => isOwn(own, id)),
        at,
      );
      return taken.kind === "steady" ? [[id, taken.powerW] as const] : [];
    }),
  );
}

function isOwn({ device, input }: SiteSample, id: string): boolean {
  return device === id && input === undefined;
}
