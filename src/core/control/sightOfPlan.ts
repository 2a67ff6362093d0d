import type { FlowSight, SurplusActor } from "@/core/simulation/diversionSchema";
import type { Controller } from "@/core/control/controllers";
import type { Sight } from "@/core/control/whoSeesWhat";
import type { SiteNode } from "@/core/site/planSchema";

/** A flow that an actor should see in its measured sum. */
export type SightFlow = keyof FlowSight;

/** Whose meter each actor goes by, nearest first. */
const ACTS_FOR: Readonly<Record<SurplusActor, readonly Controller["kind"][]>> = {
  battery: ["battery-inverter", "hybrid-inverter", "energy-manager"],
  heater: ["diverter"],
  vehicle: ["ev-charger"],
};
const FLOW_OF: Readonly<Record<SightFlow, readonly SiteNode["kind"][]>> = {
  sun: ["pv-inverter", "hybrid-inverter"],
  house: ["load", "heat-pump"],
  battery: ["battery-inverter", "hybrid-inverter"],
  heater: ["diverter"],
  vehicle: ["ev-charger"],
};
const SAME = 0.05;

/** Every flow counted once, as it should be. */
export const RIGHT_SIGHT: FlowSight = { sun: 1, house: 1, battery: 1, heater: 1, vehicle: 1 };

/** An actor whose controller does not see the flows as they are. */
export interface WrongSight {
  readonly actor: SurplusActor;
  readonly controller: Controller;
  readonly sight: FlowSight;
}

/**
 * The actors whose controller counts a flow twice, in part, the wrong way or not at all, with how often each flow
 * counts. A
 * flow of several devices counts by their rating; one without a device counts as it should.
 *
 * For example: A battery's meter with the roof's run through two of its CTs: { actor: "battery", sight: { sun: 2, …
 * } }.
 */
export function wrongSights(sights: readonly Sight[]): readonly WrongSight[] {
  return (Object.keys(ACTS_FOR) as SurplusActor[]).flatMap((actor): readonly WrongSight[] => {
    const controller = ACTS_FOR[actor]
      .map((kind) => sights.find((sight) => sight.controller.kind === kind)?.controller)
      .find(Boolean);
    if (!controller) return [];
    const own = sights.filter((sight) => sight.controller.id === controller.id);
    const sight: FlowSight = {
      sun: factorOf("sun", own),
      house: factorOf("house", own),
      battery: factorOf("battery", own),
      heater: factorOf("heater", own),
      vehicle: factorOf("vehicle", own),
    };
    return Object.values(sight).every((factor) => Math.abs(factor - 1) < SAME) ? [] : [{ actor, controller, sight }];
  });
}

function factorOf(flow: SightFlow, sights: readonly Sight[]): number {
  const of = sights.filter(({ device }) => FLOW_OF[flow].includes(device.kind));
  const total = of.reduce((sum, { device }) => sum + (device.ratedW ?? 1), 0);
  return total === 0 ? 1 : of.reduce((sum, { device, factor }) => sum + factor * (device.ratedW ?? 1), 0) / total;
}

/**
 * What a sight has wrong, in words, with its cure; nothing for a flow that counts as it should.
 *
 * For example: `sightMistakes({ ...RIGHT_SIGHT, sun: 2 })` gives [{ flow: "sun", words: "counts the sun twice", … }]
 */
export function sightMistakes(
  sight: FlowSight,
): readonly { readonly flow: SightFlow; readonly words: string; readonly cure: string }[] {
  return (Object.keys(RIGHT_SIGHT) as SightFlow[]).flatMap((flow) => {
    const factor = sight[flow];
    if (Math.abs(factor - 1) < SAME) return [];
    if (Math.abs(factor) < SAME)
      return [
        {
          flow,
          words: `does not see the ${flow}`,
          cure: `move its CT upstream of where the ${flow} joins, or give it a CT there too`,
        },
      ];
    if (factor < 0)
      return [
        { flow, words: `sees the ${flow} the wrong way`, cure: `turn the CT that is round the circuit of the ${flow}` },
      ];
    if (factor < 1)
      return [
        {
          flow,
          words: `sees the ${flow} in part (${factor.toFixed(2)})`,
          cure: `bring every conductor of the ${flow} through the window, and the ratio right`,
        },
      ];
    return [
      {
        flow,
        words: `counts the ${flow} ${Math.abs(factor - 2) < SAME ? "twice" : `${factor.toFixed(2)} times`}`,
        cure: `take the circuit of the ${flow} out of one of the windows, or put the ratio right`,
      },
    ];
  });
}
