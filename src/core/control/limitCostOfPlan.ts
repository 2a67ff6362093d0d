import type { LimitCostRequest } from "@/core/simulation/limitCost";
import { diversionOfPlan } from "@/core/control/divertOfPlan";
import { plannedSetPointW, type ExportLimiter } from "@/core/control/exportLimiter";
import type { ResolvedPlan } from "@/core/plan/resolvedPlan";
import { phasesOfSupply } from "@/core/site/phasors";
import { phasesOf } from "@/core/site/tree";

/**
 * What a plan's limit is to be costed by: its sun and house, and which phases the house draws on. Undefined while
 * nobody said
 * the limit. A load of all phases is even; where the plan has no load, nothing is on any.
 *
 * For example: A house on L1 of three phases: houseOnPhase [1, 0, 0].
 */
export function limitCostOfPlan(plan: ResolvedPlan, limiter: ExportLimiter): LimitCostRequest | undefined {
  const { site, limit } = plan;
  if (limit.powerW === undefined) return undefined;
  const { place, fields, cloudiness, seed, house } = diversionOfPlan(plan, { days: 1, stepMin: 5, series: false });
  const loads = site.nodes.filter(({ kind }) => kind === "load");
  const onPhase = phasesOfSupply(site.supply).map((phase) =>
    loads.reduce((sum, load) => {
      const own = phasesOf(load, site);
      return sum + (own.includes(phase) ? 1 / own.length : 0);
    }, 0),
  );
  const sunOnPhase = phasesOfSupply(site.supply).map((phase) =>
    limiter.inverters.reduce((sum, inverter) => {
      const own = phasesOf(inverter, site);
      return sum + (own.includes(phase) ? (inverter.ratedW ?? 0) / own.length : 0);
    }, 0),
  );
  const ratedW = sunOnPhase.reduce((sum, own) => sum + own, 0) || 1;
  const total = onPhase.reduce((sum, share) => sum + share, 0) || 1;
  return {
    place,
    fields,
    cloudiness,
    seed,
    house,
    limitW: limit.powerW,
    setPointW: plannedSetPointW(limit, limiter),
    basis: limit.basis,
    houseOnPhase: onPhase.map((share) => share / total),
    sunOnPhase: sunOnPhase.map((own) => Math.min(1, own / ratedW)),
  };
}
