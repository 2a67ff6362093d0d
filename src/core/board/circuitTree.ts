import { conductorsOf, siteTree } from "@/core/site/tree";
import { clampOf } from "@/core/site/fitClamp";
import type { Conductor, Ct, MeterInput, Site, SiteNode } from "@/core/site/planSchema";

/** An input by its meter, with what it should measure. */
export interface TreeInput {
  readonly meter: string;
  readonly input: MeterInput;
}

/** A CT as it is fitted on a circuit, with the input that it is plugged into, where it is. */
export interface TreeClamp {
  readonly ct: Ct;
  readonly windowAt: number;
  readonly conductor: Conductor;
  readonly at: TreeInput | undefined;
}

/** One circuit: the conductors to a device or board, with what is on them. */
export interface CircuitRow {
  readonly node: SiteNode;
  /** How many boards are between it and the supply. */
  readonly depth: number;
  readonly conductors: readonly Conductor[];
  readonly clamps: readonly TreeClamp[];
  /** Inputs without a CT whose place is here. */
  readonly missing: readonly TreeInput[];
}

/**
 * The circuits of a site from the supply down, each board before what it feeds, with the CTs that are on them and the
 * inputs that still want one: the rail board for a hand's width.
 *
 * For example: A supply with a board and an inverter: rows `board` at depth 0 with A1, `inverter` at depth 1 with A2.
 */
export function circuitTree(site: Site): readonly CircuitRow[] {
  const { grid, childrenOf } = siteTree(site);
  const inputs = site.meters.flatMap((meter) => meter.inputs.map((input): TreeInput => ({ meter: meter.id, input })));
  const without = inputs.filter(({ meter, input }) => !clampOf(site, { meter, input: input.n }));
  const below = (id: string, depth: number): readonly CircuitRow[] =>
    (childrenOf.get(id) ?? []).flatMap((node) => [
      {
        node,
        depth,
        conductors: conductorsOf(node, site),
        clamps: site.cts.flatMap((ct) =>
          ct.around.flatMap(({ run, conductor }, windowAt): TreeClamp[] =>
            run === node.id ? [{ ct, windowAt, conductor, at: inputOfPlug(inputs, ct) }] : [],
          ),
        ),
        missing: without.filter(({ input }) => input.measures[0]?.run === node.id),
      },
      ...below(node.id, depth + 1),
    ]);
  return below(grid.id, 0);
}

function inputOfPlug(inputs: readonly TreeInput[], { plug }: Ct): TreeInput | undefined {
  return plug ? inputs.find(({ meter, input }) => meter === plug.meter && input.n === plug.input) : undefined;
}
