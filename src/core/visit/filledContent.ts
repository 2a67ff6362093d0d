import type { VisitSheet } from "@/core/visit/visitSheet";
import { stateOf, type VisitState } from "@/core/visit/visitState";
import type { VisitStep } from "@/core/visit/visitStep";

/**
 * What a step says, with what was recorded before it filled in: a network's name holds the last characters of the
 * serial number, once that is read. Until then dots stand for them.
 *
 * For example: "kit-······" with the serial number GKF1234567 recorded: "kit-234567".
 */
export function filledContent(sheet: VisitSheet, state: VisitState, step: VisitStep): VisitStep["content"] {
  const { entry } = stateOf(state, `serial:${step.about}`);
  const serial = entry?.kind === "result" ? entry.serial : undefined;
  if (serial === undefined || !sheet.steps.some(({ id }) => id === `serial:${step.about}`)) return step.content;
  return step.content.map(({ label, value }) => ({
    label,
    value: value.replace(/·+/g, (dots) => serial.slice(-dots.length)),
  }));
}
