import type { Finding } from "@/core/findings";
import { PLAN_CHECKS } from "@/core/job/planChecks";
import type { ResolvedPlan } from "@/core/plan/resolvedPlan";

/**
 * All that can be found in a plan before anyone is on site: runs against roles, CTs against runs, kits and leads,
 * devices against kits and places, generation against the main fuse.
 *
 * For example: Of every shipped pattern: nothing at `stop`.
 */
export function planFindings(plan: ResolvedPlan): readonly Finding[] {
  return PLAN_CHECKS.flatMap((check) => check(plan));
}
