import type { PlanInput } from "@/core/plan/resolvedPlan";
import type { MeterInput } from "@/core/site/planSchema";

/** Which method an input follows in one respect, and whether that is the kit's own. */
export interface School<T> {
  readonly active: T;
  readonly kits: T | undefined;
  readonly isOverridden: boolean;
}

/** Which way the printed arrow points on this input: the kit's way, or overridden in the plan. */
export function arrowSchool({ input, kitInput }: PlanInput): School<MeterInput["arrow"]> {
  return school(input.arrow, kitInput?.arrow);
}

/** What this input calls positive: the kit's meaning, or overridden in the plan. */
export function positiveSchool({ input, kitInput }: PlanInput): School<MeterInput["positive"]> {
  return school(input.positive, kitInput?.positive);
}

function school<T>(active: T, kits: T | undefined): School<T> {
  return { active, kits, isOverridden: kits !== undefined && kits !== active };
}
