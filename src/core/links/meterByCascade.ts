import type { KitDevice } from "@/core/plan/resolvedPlan";

/**
 * Who asks the meter, where a kit makes that depend on cascading: the device whose kit says so while two inverters or
 * more are there; a lone inverter that has a terminal for a meter itself. Undefined where no kit says so.
 *
 * For example: A logger with the rule, two inverters: the logger; one of them left: the other inverter.
 */
export function meterByCascade(joinable: readonly KitDevice[]): KitDevice | undefined {
  const gatherer = joinable.find(({ kit }) => kit.topology.some(({ check }) => check === "meter-by-cascade"));
  if (!gatherer) return undefined;
  const inverters = joinable.filter(({ kit }) => kit.kind === "pv-inverter" || kit.kind === "hybrid-inverter");
  const [only] = inverters;
  return inverters.length === 1 && hasMeterPort(only!) ? only : gatherer;
}

function hasMeterPort({ kit }: KitDevice): boolean {
  return kit.ports.some(({ kind, role }) => kind === "rs485" && (role === "client" || role === "either"));
}
