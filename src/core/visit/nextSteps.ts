import type { VisitEntry } from "@/core/visit/visitEntry";
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

/**
 * The first step that the plan says and that can be done, those of this place before all others: nobody is walked away
 * from open work. The first open one where none can be done.
 *
 * @param order Ids in the order of the schedule, where there is one.
 * @param here The place of whoever asks; undefined while nobody knows.
 */
export function nextStep(
  sheet: VisitSheet,
  state: VisitState,
  order: readonly string[],
  here?: string,
): VisitStep | undefined {
  const ready = readySteps(sheet, state);
  const atHand = ready.filter(({ place }) => here !== undefined && place === here);
  const among = atHand.length > 0 ? atHand : ready;
  const planned = order.map((id) => among.find((step) => step.id === id)).find((step) => step !== undefined);
  return planned ?? among[0] ?? sheet.steps.find((step) => !isOver(stateOf(state, step.id)));
}

/** Where somebody recorded last; undefined where they recorded nothing, or at no place. */
export function maybeHere(sheet: VisitSheet, entries: readonly VisitEntry[], person: string): string | undefined {
  const last = entries.findLast(
    (entry) => entry.person === person && ["start", "result", "skip"].includes(entry.kind) && "step" in entry,
  );
  return sheet.steps.find(({ id }) => last && "step" in last && id === last.step)?.place;
}
