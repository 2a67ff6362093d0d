import type { Conductor, Site, SiteNode, WindowEntry } from "@/core/site/planSchema";
import type { Phase } from "@/core/phase";
import type { DeviceState } from "@/core/flows/stateSchema";
import { add, conjugate, divide, scale, subtract, ZERO, type Complex } from "@/core/complex";
import { phaseVoltage } from "@/core/site/phasors";
import { phasesOf, siteTree } from "@/core/site/tree";

/** Current phasors of one run, amperes, positive toward the load side. A missing conductor carries nothing. */
export type RunCurrents = Readonly<Partial<Record<Conductor, Complex>>>;

/**
 * The current that a device draws on each conductor, from its complex power S = P + jQ (load convention).
 * One phase: I = conj(S / V). Two: line to line, I_p = conj(S / (V_p − V_q)) and I_q = −I_p. Three: S / 3 on
 * each. `perPhase` entries are phase to neutral. The neutral carries minus the sum of the phase currents.
 *
 * For example: `deviceCurrents(site, { node: "kettle", powerW: 2300, reactiveVar: 0 })` gives at 230 V: { L2: 10 A in
 * phase, N: −10 A }
 */
export function deviceCurrents(site: Site, node: SiteNode, state: DeviceState): RunCurrents {
  const currents: Partial<Record<Conductor, Complex>> = {};
  const phases = phasesOf(node, site);
  const total: Complex = { re: state.powerW, im: state.reactiveVar };
  const toNeutral = (phase: Phase, power: Complex) => conjugate(divide(power, phaseVoltage(site.supply, phase)));
  const [first, second, third] = phases;
  if (state.perPhase) {
    for (const phase of phases) {
      const entry = state.perPhase[phase];
      if (entry) currents[phase] = toNeutral(phase, { re: entry.powerW, im: entry.reactiveVar });
    }
  } else if (first && second && !third) {
    const across = subtract(phaseVoltage(site.supply, first), phaseVoltage(site.supply, second));
    const current = conjugate(divide(total, across));
    currents[first] = current;
    currents[second] = scale(current, -1);
  } else {
    for (const phase of phases) currents[phase] = toNeutral(phase, scale(total, 1 / phases.length));
  }
  const sum = phases.reduce((running, phase) => add(running, currents[phase] ?? ZERO), ZERO);
  return { ...currents, N: scale(sum, -1) };
}

/**
 * The currents of every run: for each conductor the sum over the node that the run feeds and all its
 * descendants. Devices that are not listed draw nothing.
 */
export function runCurrents(site: Site, devices: readonly DeviceState[]): ReadonlyMap<string, RunCurrents> {
  const tree = siteTree(site);
  const sums = new Map<string, Partial<Record<Conductor, Complex>>>(tree.runs.map((run) => [run.id, {}]));
  for (const device of devices) {
    const start = tree.nodeById.get(device.node);
    if (!start) throw new Error(`runCurrents: unknown node "${device.node}"`);
    const drawn = deviceCurrents(site, start, device);
    for (
      let node: SiteNode | undefined = start;
      node && node.kind !== "grid";
      node = tree.nodeById.get(node.fedFrom ?? "")
    ) {
      const sum = sums.get(node.id);
      if (!sum) break;
      for (const conductor of ["L1", "L2", "L3", "N"] as const) {
        const current = drawn[conductor];
        if (current) sum[conductor] = add(sum[conductor] ?? ZERO, current);
      }
    }
  }
  return sums;
}

/** The current through a CT window: the sum over its conductors, one turn. */
export function windowCurrent(entries: readonly WindowEntry[], currents: ReadonlyMap<string, RunCurrents>): Complex {
  return entries.reduce((sum, entry) => add(sum, currents.get(entry.run)?.[entry.conductor] ?? ZERO), ZERO);
}
