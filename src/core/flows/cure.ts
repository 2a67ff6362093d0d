import type { Fault } from "@/core/flows/faults";
import { inputOf } from "@/core/flows/fitting";
import { joinedSentences, plainText, said, together, type Sentence } from "@/core/sentence";
import { nodeName } from "@/core/site/tree";
import type { Site } from "@/core/site/planSchema";
import { threeDigits } from "@/core/units";

/**
 * What to do about each fault, in a technician's words, in the order in which to do it.
 *
 * For example: `cures(site, [{ kind: "reversed", meter: "m1", input: 2 }])` gives ["Turn the clamp of input 2 round,
 * or swap its two leads"]
 */
export function cures(site: Site, faults: readonly Fault[]): readonly string[] {
  return faults.map((fault) => plainText(saidCure(site, fault)));
}

/** What is wrong, as a short statement in English: the title of an explanation. */
export function faultText(site: Site, fault: Fault): string {
  return plainText(saidFault(site, fault));
}

/** What is wrong, as a short statement with its figures. */
export function saidFault(site: Site, fault: Fault): Sentence {
  const meter = meterName(site, fault.meter);
  switch (fault.kind) {
    case "reversed":
      return said`Input ${fault.input}${meter} is the wrong way round`;
    case "meter-reversed":
      return said`Every clamp of ${plainMeterName(site, fault.meter)} is the wrong way round`;
    case "wrong-phase":
      return together(
        said`The clamp of input ${fault.input}${meter} is on ${fault.conductor} instead of `,
        said`${plannedConductor(site, fault)}`,
      );
    case "exchanged":
      return said`The clamps of inputs ${fault.inputs[0]} and ${fault.inputs[1]}${meter} are exchanged`;
    case "places-exchanged":
      return together(
        said`The clamps of inputs ${fault.inputs[0]} and ${fault.inputs[1]}${meter} `,
        "are each in the other's place",
      );
    case "rotated":
      return together(
        said`The clamps of inputs ${fault.inputs.toSorted((a, b) => a - b).join(", ")}${meter} `,
        "have moved on by one",
      );
    case "wrong-run":
      return said`The clamp of input ${fault.input}${meter} is on the run to ${nodeName(site, fault.run)}`;
    case "ratio":
      return together(
        said`Input ${fault.input}${meter} reads ${threeDigits(fault.gain)} times what flows: the ratio `,
        "does not match the clamp",
      );
    case "dead":
      return said`Input ${fault.input}${meter} reads nothing`;
    case "taps-exchanged":
      return said`Voltage taps ${fault.taps[0]} and ${fault.taps[1]}${meter} are exchanged`;
  }
}

/** Several faults after each other; "As planned" where there is none. */
export function saidFaults(site: Site, faults: readonly Fault[], between = "; "): Sentence {
  if (faults.length === 0) return "As planned";
  return joinedSentences(
    faults.map((fault) => saidFault(site, fault)),
    between,
  );
}

/** What to do about a fault, with its figures. */
export function saidCure(site: Site, fault: Fault): Sentence {
  const meter = meterName(site, fault.meter);
  switch (fault.kind) {
    case "reversed":
      return said`Turn the clamp of input ${fault.input}${meter} round, or swap its two leads`;
    case "meter-reversed":
      return together(
        said`Turn every clamp of ${plainMeterName(site, fault.meter)} round: this kit wants its arrows `,
        said`${arrowText(site, fault.meter)}`,
      );
    case "wrong-phase":
      return together(
        said`Move the clamp of input ${fault.input}${meter} from ${fault.conductor} to `,
        said`${plannedConductor(site, fault)}, same run`,
      );
    case "exchanged":
      return said`Exchange the leads of inputs ${fault.inputs[0]} and ${fault.inputs[1]}${meter}`;
    case "places-exchanged":
      return together(
        said`Open the clamps of inputs ${fault.inputs[0]} and ${fault.inputs[1]}${meter} `,
        "and close each where it belongs",
      );
    case "rotated": {
      const moves = fault.inputs.map(
        (to, at) => `the leads now in input ${to} belong in input ${fault.inputs[(at + 1) % 3]}`,
      );
      return said`Re-plug three clamps${meter}: ${moves.join("; ")}`;
    }
    case "wrong-run": {
      const { input } = inputOf(site, fault);
      const wanted = input.measures.map((entry) => nodeName(site, entry.run)).join(" and ");
      return together(
        said`Move the clamp of input ${fault.input}${meter} from the run to ${nodeName(site, fault.run)} `,
        said`to the run to ${wanted}`,
      );
    }
    case "ratio": {
      const { input } = inputOf(site, fault);
      const fitted = input.primaryA / fault.gain;
      const typed = said`Compare the clamp's nameplate and turns with the setting of input ${fault.input}${meter}`;
      const acts = said`a clamp that acts as ${threeDigits(fitted)} A`;
      const other = said`a setting of ${threeDigits(input.primaryA * fault.gain)} A`;
      return said`${typed}: it should be ${input.primaryA} A; ${acts}, or ${other}, would read like this`;
    }
    case "dead":
      return together(
        said`Check input ${fault.input}${meter}: leads seated, clamp closed fully round the conductor, `,
        "right input. Leave a current-output clamp shorted while its leads are off",
      );
    case "taps-exchanged":
      return together(
        said`Exchange the voltage taps ${fault.taps[0]} and ${fault.taps[1]}${meter}, isolated `,
        "and proved dead first",
      );
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
