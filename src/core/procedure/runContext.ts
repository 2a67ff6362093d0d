import type { JobDocument } from "@/core/job/jobDocument";
import type { Kit } from "@/core/kits/kitSchema";
import { linkItems, type LinkItem } from "@/core/links/linkItems";
import type { Link } from "@/core/links/linkSchema";
import { inputSetups, type InputSetup } from "@/core/sensing/meterSetup";
import { isOwnUnit } from "@/core/site/meterHost";
import type { Site, SiteNode } from "@/core/site/planSchema";

export type RunPlan = Pick<JobDocument, "site" | "kits" | "links" | "run" | "job">;

/** Something that is worked on: a device of a run, a meter, or equipment, with its kit. */
export interface Worked {
  readonly id: string;
  readonly name: string;
  readonly kit: Kit;
  readonly place: string | undefined;
  readonly isNew: boolean;
  readonly node: SiteNode | undefined;
}

/** What every rule is told. */
export interface RunContext {
  readonly plan: RunPlan;
  readonly site: Site;
  readonly links: readonly Link[];
  readonly items: readonly LinkItem[];
  readonly setups: readonly InputSetup[];
  /** Everything with a kit, each once; a meter that is part of a device is that device. */
  readonly worked: readonly Worked[];
  /** Where the supply is switched; without a board in the plan, the supply itself. */
  readonly boards: readonly SiteNode[];
  readonly placeName: (id: string | undefined) => string;
}

export function runContext(plan: RunPlan): RunContext {
  const { site, kits, links } = plan;
  const find = (id: string | undefined) => kits.find((kit) => kit.id === id);
  const worked = [
    ...site.nodes.map((node) => ({
      id: node.id,
      name: node.name,
      kit: find(node.kit),
      place: node.place,
      isNew: !node.existing,
      node,
    })),
    ...site.meters.filter(isOwnUnit).map((meter) => ({
      id: meter.id,
      name: meter.name,
      kit: find(meter.kit),
      place: meter.place,
      isNew: true,
      node: undefined,
    })),
    ...site.equipment.map((item) => ({
      id: item.id,
      name: item.name,
      kit: find(item.kit),
      place: item.place,
      isNew: !item.existing,
      node: undefined,
    })),
  ].flatMap(({ kit, ...item }): readonly Worked[] => (kit ? [{ ...item, kit }] : []));
  const placeNames = new Map(site.places.map(({ id, name }) => [id, name]));
  return {
    plan,
    site,
    links,
    items: linkItems(site, kits),
    setups: inputSetups(site, kits),
    worked,
    boards: boardsOf(site),
    placeName: (id) => (id === undefined ? "every place that is opened" : (placeNames.get(id) ?? id)),
  };
}

/** A site is switched off and on somewhere, also where nobody drew a board. */
function boardsOf(site: Site): readonly SiteNode[] {
  const boards = site.nodes.filter(({ kind }) => kind === "board");
  return boards.length > 0 ? boards : site.nodes.filter(({ kind }) => kind === "grid");
}

/** Whether something makes power from light: it has strings and a DC side. */
export function isSolar({ kit }: Pick<Worked, "kit">): boolean {
  return kit.kind === "pv-inverter" || kit.kind === "hybrid-inverter";
}

/** Whether something is joined to the mains by its own run. */
export function isOnMains({ node, kit }: Worked): boolean {
  return node !== undefined && node.kind !== "board" && node.kind !== "load" && kit.kind !== "battery";
}
