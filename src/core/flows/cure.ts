import type { Fault } from "@/core/flows/faults";
import { inputOf } from "@/core/flows/fitting";
import { nodeName } from "@/core/site/tree";
import type { Site } from "@/core/site/planSchema";
import { threeDigits } from "@/core/units";

/**
 * What to do about each fault, in a technician's words, in the order in which to do it.
 *
 * @example cures(site, [{ kind: "reversed", meter: "m1", input: 2 }]) // ["Turn the clamp of input 2 round, or swap its two leads"]
 */
export function cures(site: Site, faults: readonly Fault[]): readonly string[] {
  return faults.map((fault) => cure(site, fault));
}

/** What is wrong, as a short statement: the title of an explanation. */
export function faultText(site: Site, fault: Fault): string {
  const meter = meterName(site, fault.meter);
  switch (fault.kind) {
    case "reversed":
      return `Input ${fault.input}${meter} is the wrong way round`;
    case "meter-reversed":
      return `Every clamp of ${plainMeterName(site, fault.meter)} is the wrong way round`;
    case "wrong-phase":
      return `The clamp of input ${fault.input}${meter} is on ${fault.conductor} instead of ${plannedConductor(site, fault)}`;
    case "exchanged":
      return `The clamps of inputs ${fault.inputs[0]} and ${fault.inputs[1]}${meter} are exchanged`;
    case "rotated":
      return `The clamps of inputs ${fault.inputs.toSorted((a, b) => a - b).join(", ")}${meter} have moved on by one`;
    case "wrong-run":
      return `The clamp of input ${fault.input}${meter} is on the run to ${nodeName(site, fault.run)}`;
    case "ratio":
      return `Input ${fault.input}${meter} reads ${threeDigits(fault.gain)} times what flows: the ratio does not match the clamp`;
    case "dead":
      return `Input ${fault.input}${meter} reads nothing`;
    case "taps-exchanged":
      return `Voltage taps ${fault.taps[0]} and ${fault.taps[1]}${meter} are exchanged`;
  }
}

function cure(site: Site, fault: Fault): string {
  const meter = meterName(site, fault.meter);
  switch (fault.kind) {
    case "reversed":
      return `Turn the clamp of input ${fault.input}${meter} round, or swap its two leads`;
    case "meter-reversed":
      return `Turn every clamp of ${plainMeterName(site, fault.meter)} round: this kit wants its arrows ${arrowText(site, fault.meter)}`;
    case "wrong-phase":
      return `Move the clamp of input ${fault.input}${meter} from ${fault.conductor} to ${plannedConductor(site, fault)}, same run`;
    case "exchanged":
      return `Exchange the leads of inputs ${fault.inputs[0]} and ${fault.inputs[1]}${meter}`;
    case "rotated": {
      const moves = fault.inputs.map(
        (to, at) => `the leads now in input ${to} belong in input ${fault.inputs[(at + 1) % 3]}`,
      );
      return `Re-plug three clamps${meter}: ${moves.join("; ")}`;
    }
    case "wrong-run": {
      const { input } = inputOf(site, fault);
      const wanted = input.measures.map((entry) => nodeName(site, entry.run)).join(" and ");
      return `Move the clamp of input ${fault.input}${meter} from the run to ${nodeName(site, fault.run)} to the run to ${wanted}`;
    }
    case "ratio": {
      const { input } = inputOf(site, fault);
      const fitted = input.primaryA / fault.gain;
      return (
        `Compare the clamp's nameplate and turns with the setting of input ${fault.input}${meter}: it should be ${input.primaryA} A; ` +
        `a clamp that acts as ${threeDigits(fitted)} A, or a setting of ${threeDigits(input.primaryA * fault.gain)} A, would read like this`
      );
    }
    case "dead":
      return `Check input ${fault.input}${meter}: leads seated, clamp closed fully round the conductor, right input. Leave a current-output clamp shorted while its leads are off`;
    case "taps-exchanged":
      return `Exchange the voltage taps ${fault.taps[0]} and ${fault.taps[1]}${meter}, isolated and proved dead first`;
  }
}

function plannedConductor(site: Site, at: { meter: string; input: number }): string {
  return [...new Set(inputOf(site, at).input.measures.map((entry) => entry.conductor))].join(" and ");
}

function arrowText(site: Site, meterId: string): string {
  const arrows = new Set(site.meters.find((meter) => meter.id === meterId)?.inputs.map((input) => input.arrow));
  if (arrows.size > 1) return "as each input says";
  return arrows.has("to-load") ? "toward the loads" : "toward the grid";
}

/** Names the meter only where there is more than one to confuse. */
function meterName(site: Site, meterId: string): string {
  return site.meters.length > 1 ? ` of ${plainMeterName(site, meterId)}` : "";
}

function plainMeterName(site: Site, meterId: string): string {
  return site.meters.find((meter) => meter.id === meterId)?.name ?? meterId;
}
