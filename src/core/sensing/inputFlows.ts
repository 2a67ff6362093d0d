import { countedDevices } from "@/core/sensing/roles";
import type { MeterInput, Site, SiteNode } from "@/core/site/planSchema";
import type { Phase } from "@/core/phase";
import { magnitude, subtract } from "@/core/complex";
import { phaseVoltage } from "@/core/site/phasors";
import { phasesOf, siteTree } from "@/core/site/tree";

/** What a house draws on each phase when nobody is doing anything, where the plan says nothing. */
export const RESTING_W_PER_PHASE = 150;
/** A usual part of the rated generation, and of the protective device, to show an error at. */
const TYPICAL_SHARE_OF_GENERATION = 0.6;
const TYPICAL_SHARE_OF_NEED = 0.3;

/**
 * The currents that can flow through one input's window, A on its conductor; undefined where the plan gives no number.
 */
export interface InputFlows {
  /** Sum of the breakers or fuses of the runs in the window. */
  readonly fuseA: number | undefined;
  readonly generationA: number;
  readonly loadA: number;
  /**
   * What the CT's primary must hold: the fuse, or the sum of the generation where that is more; without a fuse the
   * larger direction.
   */
  readonly needA: number | undefined;
  /** Loads at rest; undefined when no load is on it. */
  readonly nightA: number | undefined;
  readonly typicalA: number | undefined;
}

/**
 * How much can flow where an input measures. Loads can add up to more than a fuse passes, generation is counted whole.
 *
 * For example: A main run behind 63 A with 3.6 kW of solar at 230 V: fuse 63, generation 15.7, need 63 A.
 */
export function inputFlows(site: Site, input: MeterInput): InputFlows {
  const tree = siteTree(site);
  const counts = countedDevices(site, input.measures, tree);
  let generationA = 0;
  let loadA = 0;
  let nightA: number | undefined;
  for (const [id, count] of counts) {
    const node = tree.nodeById.get(id);
    if (!node) continue;
    const ratedA = count * deviceCurrentA(site, node, node.ratedW ?? 0);
    if (canFeedIn(node)) generationA += ratedA;
    if (canDraw(node)) loadA += ratedA;
    if (node.kind === "load")
      nightA =
        (nightA ?? 0) +
        count * deviceCurrentA(site, node, node.nightW ?? RESTING_W_PER_PHASE * phasesOf(node, site).length);
  }
  const fuses = input.measures.map(({ run }) => runFuseA(site, tree.nodeById.get(run)));
  const fuseA = fuses.every((fuse) => fuse !== undefined) ? fuses.reduce((sum, fuse) => sum + fuse, 0) : undefined;
  const largest = fuseA === undefined ? Math.max(generationA, loadA) : Math.max(fuseA, generationA);
  const needA = largest > 0 ? largest : undefined;
  const typicalA = generationA > 0 ? TYPICAL_SHARE_OF_GENERATION * generationA : needA && TYPICAL_SHARE_OF_NEED * needA;
  return { fuseA, generationA, loadA, needA, nightA, typicalA };
}

/**
 * The protective device of a run: its own, or the supply's main fuse for a run from the grid.
 */
export function runFuseA(site: Site, node: SiteNode | undefined): number | undefined {
  if (!node) return undefined;
  if (node.fuseA !== undefined) return node.fuseA;
  return node.fedFrom === siteTree(site).grid.id ? site.supply.mainFuseA : undefined;
}

/**
 * The current of a device on each of its conductors, A: P / V on one phase, P / |V_p − V_q| across two, P / 3V on
 * three.
 *
 * For example: `deviceCurrentA(site, solar, 3600)` gives 15.65 on one phase of 230 V
 */
export function deviceCurrentA(site: Site, node: SiteNode, powerW: number): number {
  const phases = phasesOf(node, site);
  const [first, second] = phases;
  if (phases.length === 2 && first && second) return powerW / acrossV(site, first, second);
  return powerW / (phases.length * site.supply.voltageV);
}

function acrossV(site: Site, first: Phase, second: Phase): number {
  return magnitude(subtract(phaseVoltage(site.supply, first), phaseVoltage(site.supply, second)));
}

function canFeedIn({ kind }: SiteNode): boolean {
  return kind === "pv-inverter" || kind === "hybrid-inverter" || kind === "battery-inverter" || kind === "generator";
}

function canDraw({ kind }: SiteNode): boolean {
  return kind !== "pv-inverter" && kind !== "generator" && kind !== "board" && kind !== "grid";
}
