import type { RunSheet } from "@/core/procedure/runSheet";
import { isOver, stateOf, type RunState } from "@/core/procedure/runState";
import type { RunStep } from "@/core/procedure/runStep";

/** Steps that can be done now, in the order of the sheet. */
export function readySteps(sheet: RunSheet, state: RunState): readonly RunStep[] {
  return sheet.steps.filter((step) => {
    const { status } = stateOf(state, step.id);
    return (
      (status === "open" || status === "stopped") && step.needs.every(({ step: id }) => isOver(stateOf(state, id)))
    );
  });
}

/**
 * What can be done while something waits: other ready steps, those at this place first, then in the order of the plan.
 *
 * @param order Ids in the order of the schedule, where there is one.
 */
export function meanwhile(
  sheet: RunSheet,
  state: RunState,
  current: RunStep | undefined,
  order: readonly string[],
): readonly RunStep[] {
  const rank = new Map(order.map((id, at) => [id, at]));
  return readySteps(sheet, state)
    .filter(({ id }) => id !== current?.id)
    .toSorted(
      (a, b) =>
        Number(b.place === current?.place) - Number(a.place === current?.place) ||
        (rank.get(a.id) ?? Infinity) - (rank.get(b.id) ?? Infinity),
    );
}

/** The first step that the plan says and that can be done; the first open one where none can. */
export function nextStep(sheet: RunSheet, state: RunState, order: readonly string[]): RunStep | undefined {
  const ready = readySteps(sheet, state);
  const planned = order.map((id) => ready.find((step) => step.id === id)).find((step) => step !== undefined);
  return planned ?? ready[0] ?? sheet.steps.find((step) => !isOver(stateOf(state, step.id)));
}
