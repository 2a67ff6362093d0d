import type { VisitSheet } from "@/core/visit/visitSheet";
import { isOver, stateOf, type VisitState } from "@/core/visit/visitState";
import type { VisitStep } from "@/core/visit/visitStep";

/** Steps that can be done now, in the order of the sheet. */
export function readySteps(sheet: VisitSheet, state: VisitState): readonly VisitStep[] {
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
  sheet: VisitSheet,
  state: VisitState,
  current: VisitStep | undefined,
  order: readonly string[],
): readonly VisitStep[] {
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
export function nextStep(sheet: VisitSheet, state: VisitState, order: readonly string[]): VisitStep | undefined {
  const ready = readySteps(sheet, state);
  const planned = order.map((id) => ready.find((step) => step.id === id)).find((step) => step !== undefined);
  return planned ?? ready[0] ?? sheet.steps.find((step) => !isOver(stateOf(state, step.id)));
}
