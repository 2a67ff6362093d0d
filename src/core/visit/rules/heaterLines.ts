import { given } from "@/core/given";
import { heaterOutputs } from "@/core/kits/heaterOutputs";
import type { KitDevice } from "@/core/plan/resolvedPlan";
import type { Site } from "@/core/site/planSchema";
import { powerText, threeDigits } from "@/core/units";
import type { StepDraft, ValueField } from "@/core/visit/visitStep";

/** Resistance of an element against V² / P: its own tolerance, and the leads and contacts that only add. */
const ELEMENT_LEAST = 0.9;
const ELEMENT_MOST = 1.15;

/** How a heater circuit that stood there is cut for the diverter, and what hangs on which output. */
export function heaterLines({ node, kit }: KitDevice): NonNullable<StepDraft["content"]> {
  const elements = node?.heater?.elements ?? [];
  const supply = kit.ports.find(({ kind }) => kind === "mains")?.label;
  return given(
    node?.heater?.isTakenOver && {
      label: "The circuit there",
      value:
        "trace it from its breaker over isolator and timer to the tank; the timer goes, or stays on for ever; " +
        `cut behind the isolator: from the breaker into ${supply}, the tank's cable to the outputs`,
    },
    ...heaterOutputs(kit).flatMap(({ id, label }) =>
      elements
        .filter(({ output }) => output === id)
        .map(({ name, ratedW }) => ({ label: `On ${label}`, value: `${name}, ${powerText(ratedW)}` })),
    ),
    elements.length > 0 && {
      label: "Stays as it is",
      value: "thermostat and over-temperature cut-out of each element, between output and element",
    },
    kit.bypass && {
      label: "Bypass",
      value: `${kit.bypass.surplus} for surplus; ${kit.bypass.direct} heats straight from the supply, as before`,
    },
  );
}

/** Resistance of each element with everything off: V² / P, so that what is joined is the element that was meant. */
export function elementFields({ supply }: Site, { node }: KitDevice): readonly ValueField[] {
  return (node?.heater?.elements ?? []).map(({ output, name, ratedW }): ValueField => {
    const ohm = supply.voltageV ** 2 / ratedW;
    return {
      id: `element-${output}`,
      label: `Resistance of the ${name.toLowerCase()}, isolated, thermostat calling`,
      unit: "Ω",
      expected: `about ${threeDigits(ohm)} Ω for ${powerText(ratedW)}`,
      least: Number(threeDigits(ohm * ELEMENT_LEAST)),
      most: Number(threeDigits(ohm * ELEMENT_MOST)),
      outside: "Another element, a thermostat that is open, or a second one in parallel: trace it before it is joined",
    };
  });
}
