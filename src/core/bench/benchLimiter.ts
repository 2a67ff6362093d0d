import type { BenchLimiter } from "@/core/bench/heldExport";
import { exportLimiter, limitRequest } from "@/core/control/exportLimiter";
import type { ResolvedPlan } from "@/core/plan/resolvedPlan";

/**
 * Who holds the export on a job's bench, as the plan has it; undefined where there is no limit or nobody who can.
 *
 * For example: a hybrid inverter that reads the grid meter, limit 3000 W: that inverter, by that meter.
 */
export function benchLimiter(plan: ResolvedPlan): BenchLimiter | undefined {
  const limiter = plan.limit.powerW === undefined ? undefined : exportLimiter(plan);
  if (!limiter) return undefined;
  const { limit, meter, controller, inverters } = limitRequest(plan, limiter, "load-drop");
  return {
    device: limiter.controller.id,
    gridMeter: limiter.meter.id,
    limit,
    // The bench's own noise and CTs are what it is off by.
    meter: { ...meter, errorPct: 0 },
    controller,
    inverters,
  };
}
