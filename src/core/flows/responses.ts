import { runCurrents, windowCurrent, type RunCurrents } from "@/core/flows/currents";
import type { DeviceState } from "@/core/flows/stateSchema";
import type { Site, SiteNode, WindowEntry } from "@/core/site/planSchema";
import type { Phase } from "@/core/phase";
import { conjugate, divide, multiply, scale, subtract, type Complex } from "@/core/complex";
import { phaseVoltage } from "@/core/site/phasors";
import { phasesOf, siteTree } from "@/core/site/tree";

/** One independent complex power that a device can have: on one phase, or across two (`phase` undefined). */
export interface PowerColumn {
  readonly node: string;
  readonly phase: Phase | undefined;
}

/** How much of a device's complex power goes into one column. */
export interface ColumnShare {
  readonly column: number;
  readonly share: Complex;
}

/** The independent powers of a site and, once for each, the currents that one watt of it makes everywhere. */
export interface SiteResponses {
  readonly columns: readonly PowerColumn[];
  /** The columns of a node, in phase order. */
  readonly columnsOf: ReadonlyMap<string, readonly number[]>;
  /**
   * Complex power at a window and tap per unit complex power in each column: V_tap · conj(I), interleaved
   * real and imaginary, two numbers a column.
   */
  row(around: readonly WindowEntry[], tapPhase: Phase): Float64Array;
  /** Where a device's total power goes when no phase is given on its own. */
  shares(node: string): readonly ColumnShare[];
}

/**
 * Work out once how every meter window answers to every possible device power.
 *
 * For example: A window round the main run's L2 answers to a kettle on L2, with the tap on L2, by 1 + 0j.
 *
 * @param perPhaseNodes Nodes whose phases vary on their own although they have two (background loads, and
 *   devices given per phase); any other two-phase node is one load across both.
 */
export function siteResponses(site: Site, perPhaseNodes: ReadonlySet<string>): SiteResponses {
  const tree = siteTree(site);
  const columns: PowerColumn[] = [];
  const columnsOf = new Map<string, readonly number[]>();
  for (const node of tree.runs) {
    const phases = phasesOf(node, site);
    const own: readonly (Phase | undefined)[] =
      phases.length === 2 && !perPhaseNodes.has(node.id) ? [undefined] : phases;
    columnsOf.set(
      node.id,
      own.map((phase) => columns.push({ node: node.id, phase }) - 1),
    );
  }
  const currents = columns.map((column) => runCurrents(site, [unitPower(column)]));
  return {
    columns,
    columnsOf,
    row: (around, tapPhase) => responseRow(site, currents, around, tapPhase),
    shares: (id) => columnShares(site, tree.nodeById.get(id), columnsOf.get(id) ?? []),
  };
}

function unitPower(column: PowerColumn): DeviceState {
  const one = { powerW: 1, reactiveVar: 0 };
  if (column.phase === undefined) return { node: column.node, ...one };
  return { node: column.node, powerW: 0, reactiveVar: 0, perPhase: { [column.phase]: one } };
}

function responseRow(
  site: Site,
  currents: readonly ReadonlyMap<string, RunCurrents>[],
  around: readonly WindowEntry[],
  tapPhase: Phase,
): Float64Array {
  const tap = phaseVoltage(site.supply, tapPhase);
  const row = new Float64Array(currents.length * 2);
  currents.forEach((runs, column) => {
    const power = multiply(tap, conjugate(windowCurrent(around, runs)));
    row[2 * column] = power.re;
    row[2 * column + 1] = power.im;
  });
  return row;
}

function columnShares(site: Site, node: SiteNode | undefined, own: readonly number[]): readonly ColumnShare[] {
  if (!node) throw new Error("columnShares: unknown node");
  const [first, second] = phasesOf(node, site);
  if (own.length === 2 && first && second) {
    // Line to line in phase-to-neutral columns: I_p = conj(S / (V_p − V_q)) = conj(S_p / V_p).
    const across = subtract(phaseVoltage(site.supply, first), phaseVoltage(site.supply, second));
    return [
      { column: own[0]!, share: divide(phaseVoltage(site.supply, first), across) },
      { column: own[1]!, share: scale(divide(phaseVoltage(site.supply, second), across), -1) },
    ];
  }
  return own.map((column) => ({ column, share: { re: 1 / own.length, im: 0 } }));
}
