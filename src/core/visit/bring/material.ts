import { hasKit } from "@/core/plan/resolve";
import type { KitDevice, ResolvedPlan } from "@/core/plan/resolvedPlan";
import { isOwnUnit } from "@/core/site/meterHost";
import type { VisitPhase } from "@/core/visit/visitStep";

/** What a line of the list is. */
export type MaterialGroup =
  | "devices"
  | "clamps"
  | "protection"
  | "cable"
  | "connectors"
  | "fixings"
  | "small-parts"
  | "labels"
  | "tools"
  | "instruments"
  | "protective-gear"
  | "help";

/** So much of a line is used at one place, in one part of the visit. */
export interface MaterialUse {
  /** Id of the place; undefined where nobody said, or for what is used at all of them. */
  readonly place: string | undefined;
  readonly phase: VisitPhase;
  readonly quantity: number;
}

/** One line of what to bring. */
export interface Material {
  /** Stays the same while the plan means the same thing, so that its tick stays. */
  readonly id: string;
  readonly group: MaterialGroup;
  readonly text: string;
  readonly quantity: number;
  readonly unit: "pcs" | "m" | "sheet";
  /** Where the number comes from. */
  readonly why: string;
  /** Where and when it is used. */
  readonly uses: readonly MaterialUse[];
}

/** A line before those that mean the same thing are put together: at one place, in one part of the visit. */
export interface MaterialDraft extends Omit<Material, "uses"> {
  readonly place: string | undefined;
  readonly phase: VisitPhase;
}

/** The groups of the list, in words and in order. */
export const MATERIAL_GROUPS: Readonly<Record<MaterialGroup, string>> = {
  devices: "Devices and meters",
  clamps: "CTs",
  protection: "Breakers and isolators",
  cable: "Cable",
  connectors: "Connectors, plugs and lugs",
  fixings: "Fixings and glands",
  "small-parts": "Ferrules and small parts",
  labels: "Labels",
  tools: "Tools",
  instruments: "Test instruments",
  "protective-gear": "Protective gear",
  help: "Help",
};

/** One of these is enough, however many steps use it. */
const ONE_FOR_ALL: readonly MaterialGroup[] = ["tools", "instruments", "protective-gear"];

/** Everything of a kit that is to be brought; a meter that is part of a device comes with it. */
export function brought({ nodes, meters, equipment }: ResolvedPlan): readonly KitDevice[] {
  const units = meters.filter(({ meter }) => isOwnUnit(meter)).map(({ self }) => self);
  return [...nodes, ...units, ...equipment].filter(({ isNew }) => isNew).filter(hasKit);
}

/** Lines that mean the same thing become one, with the sum, every reason, and where each part of it is used. */
export function merged(drafts: readonly MaterialDraft[]): readonly Material[] {
  const byId = new Map<string, Material>();
  for (const { place, phase, ...draft } of drafts) {
    const known = byId.get(draft.id);
    const use: MaterialUse = { place, phase, quantity: draft.quantity };
    const isOne = ONE_FOR_ALL.includes(draft.group);
    byId.set(
      draft.id,
      known
        ? {
            ...known,
            quantity: isOne ? known.quantity : rounded(known.quantity + draft.quantity),
            why: known.why.includes(draft.why) ? known.why : `${known.why}, ${draft.why}`,
            uses: withUse(known.uses, use, isOne),
          }
        : { ...draft, uses: [use] },
    );
  }
  const order = Object.keys(MATERIAL_GROUPS);
  return [...byId.values()].toSorted((a, b) => order.indexOf(a.group) - order.indexOf(b.group));
}

function withUse(uses: readonly MaterialUse[], use: MaterialUse, isOne: boolean): readonly MaterialUse[] {
  const at = uses.findIndex(({ place, phase }) => place === use.place && phase === use.phase);
  const same = uses[at];
  if (!same) return [...uses, use];
  return isOne ? uses : uses.with(at, { ...same, quantity: rounded(same.quantity + use.quantity) });
}

function rounded(quantity: number): number {
  return Math.round(quantity * 10) / 10;
}
