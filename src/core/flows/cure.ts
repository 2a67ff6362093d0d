import type { Fault } from "@/core/flows/faults";
import { inputOf } from "@/core/flows/fitting";
import { joinedSentences, plainText, said, together, type Sentence } from "@/core/sentence";
import { inputTag } from "@/core/site/inputTag";
import { joined } from "@/core/words";
import { nodeName } from "@/core/site/tree";
import type { Site } from "@/core/site/planSchema";
import { threeDigits } from "@/core/units";

/**
 * What to do about each fault, in a technician's words, in the order in which to do it.
 *
 * For example: `cures(site, [{ kind: "reversed", meter: "m1", input: 2 }])` gives ["Turn A2 round, or swap its two
 * leads"]
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
  switch (fault.kind) {
    case "reversed":
      return said`${tag(site, fault)} is the wrong way round`;
    case "meter-reversed":
      return said`Every CT of ${meterName(site, fault.meter)} is the wrong way round`;
    case "wrong-phase":
      return said`${tag(site, fault)} is on ${fault.conductor} instead of ${plannedConductor(site, fault)}`;
    case "exchanged":
      return said`${tags(site, fault)} are exchanged at the meter`;
    case "places-exchanged":
      return said`${tags(site, fault)} are each in the other's place`;
    case "rotated":
      return said`${tags(site, fault)} have moved on by one`;
    case "wrong-run":
      return said`${tag(site, fault)} is on the circuit of ${nodeName(site, fault.run)}`;
    case "ratio":
      return together(
        said`${tag(site, fault)} reads ${threeDigits(fault.gain)} times what flows: `,
        "the ratio does not match the CT",
      );
    case "dead":
      return said`${tag(site, fault)} reads nothing`;
    case "taps-exchanged":
      return said`Voltage taps ${fault.taps[0]} and ${fault.taps[1]} of ${meterName(site, fault.meter)} are exchanged`;
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
  switch (fault.kind) {
    case "reversed":
      return said`Turn ${tag(site, fault)} round, or swap its two leads`;
    case "meter-reversed":
      return together(
        said`Turn every CT of ${meterName(site, fault.meter)} round: this kit wants its arrows `,
        said`${arrowText(site, fault.meter)}`,
      );
    case "wrong-phase":
      return said`Move ${tag(site, fault)} from ${fault.conductor} to ${plannedConductor(site, fault)}, same circuit`;
    case "exchanged":
      return said`Exchange the leads of ${tags(site, fault)} at the meter`;
    case "places-exchanged":
      return said`Open ${tags(site, fault)} and close each where it belongs`;
    case "rotated": {
      const own = (input: number) => inputTag(site, fault.meter, input);
      const moves = fault.inputs.map(
        (to, at) => `the leads now in ${own(to)} belong in ${own(fault.inputs[(at + 1) % 3]!)}`,
      );
      return said`Re-plug three CTs: ${moves.join("; ")}`;
    }
    case "wrong-run": {
      const { input } = inputOf(site, fault);
      const wanted = input.measures.map((entry) => nodeName(site, entry.run)).join(" and ");
      return together(
        said`Move ${tag(site, fault)} from the circuit of ${nodeName(site, fault.run)} `,
        said`to the circuit of ${wanted}`,
      );
    }
    case "ratio": {
      const { input } = inputOf(site, fault);
      const fitted = input.primaryA / fault.gain;
      const typed = said`Compare the nameplate and turns of ${tag(site, fault)} with its setting`;
      const acts = said`a CT that acts as ${threeDigits(fitted)} A`;
      const other = said`a setting of ${threeDigits(input.primaryA * fault.gain)} A`;
      return said`${typed}: it should be ${input.primaryA} A; ${acts}, or ${other}, would read like this`;
    }
    case "dead":
      return together(
        said`Check ${tag(site, fault)}: leads seated, CT closed fully round the conductor, right input. `,
        "Leave a current-output CT shorted while its leads are off",
      );
    case "taps-exchanged":
      return together(
        said`Exchange the voltage taps ${fault.taps[0]} and ${fault.taps[1]} of ${meterName(site, fault.meter)}, `,
        "isolated and proved dead first",
      );
  }
}

/** The one name of a CT: of its meter and its input. */
function tag(site: Site, { meter, input }: { readonly meter: string; readonly input: number }): string {
  return inputTag(site, meter, input);
}

function tags(site: Site, { meter, inputs }: { readonly meter: string; readonly inputs: readonly number[] }): string {
  return joined(inputs.toSorted((a, b) => a - b).map((input) => inputTag(site, meter, input)));
}

function plannedConductor(site: Site, at: { meter: string; input: number }): string {
  return [...new Set(inputOf(site, at).input.measures.map((entry) => entry.conductor))].join(" and ");
}

function arrowText(site: Site, meterId: string): string {
  const arrows = new Set(site.meters.find((meter) => meter.id === meterId)?.inputs.map((input) => input.arrow));
  if (arrows.size > 1) return "as each input says";
  return arrows.has("to-load") ? "toward the loads" : "toward the grid";
}

function meterName(site: Site, meterId: string): string {
  return site.meters.find((meter) => meter.id === meterId)?.name ?? meterId;
}
