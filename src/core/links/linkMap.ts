import type { Link } from "@/core/plan/linkSchema";
import type { ResolvedPlan } from "@/core/plan/resolvedPlan";

const COLUMN_PX = 345;
/** Between two columns: leaves room for the label of a cable. */
const GAP_PX = 125;
/** Leaves a cable between two devices longer than its label is high. */
const ROW_PX = 125;
const HEAD_PX = 66;
const FOOT_PX = 18;
const CABLED: readonly Link["kind"][] = ["rs485", "can", "ethernet", "dry-contact"];
/** How large a device is drawn. */
export const DEVICE_PX = { width: 190, height: 62 } as const;

/** A device of the map, px. */
export interface MapNode {
  readonly id: string;
  readonly name: string;
  readonly kit: string;
  readonly x: number;
  readonly y: number;
}

/** A side of a device where a cable can leave. */
export type Side = "left" | "right" | "top" | "bottom";

/** A cable of the map. */
export interface MapEdge {
  readonly id: string;
  readonly from: string;
  readonly to: string;
  /** Where the cable leaves and where it comes in. */
  readonly leaves: Side;
  readonly enters: Side;
  readonly kind: Link["kind"];
  readonly distanceM: number | undefined;
  readonly hasCable: boolean;
}

/** Places, devices and cables, laid out in px. */
export interface LinkMap {
  readonly places: readonly {
    readonly id: string;
    readonly name: string;
    readonly x: number;
    readonly width: number;
    readonly height: number;
  }[];
  readonly nodes: readonly MapNode[];
  readonly edges: readonly MapEdge[];
}

/**
 * Where everything with a link stands: a column for each place in the order of the plan, devices below each other in
 * the order of their lines, an edge for each cable. Nothing lies on anything, and no two columns touch.
 *
 * For example: A meter in the hall and a hybrid with its battery in the garage: two columns, three devices, two edges.
 */
export function linkMap({ site, links, joinableById }: ResolvedPlan): LinkMap {
  const order = [...new Set(links.flatMap((link) => link.members.map((member) => member.item)))];
  const linked = order.flatMap((id) => joinableById.get(id) ?? []);
  const columns = [...site.places.map(({ id, name }) => ({ id, name })), { id: "", name: "Place not said" }]
    .map((place) => ({ ...place, members: linked.filter((item) => (item.place?.id ?? "") === place.id) }))
    .filter(({ members }) => members.length > 0);
  const tallest = Math.max(0, ...columns.map(({ members }) => members.length));
  const nodes = columns.flatMap(({ members }, column) =>
    members.map((item, row): MapNode => ({
      id: item.id,
      name: item.name,
      kit: item.kit.name,
      x: column * COLUMN_PX + 15,
      y: HEAD_PX + row * ROW_PX,
    })),
  );
  return {
    places: columns.map(({ id, name }, at) => ({
      id,
      name,
      x: at * COLUMN_PX,
      width: COLUMN_PX - GAP_PX,
      height: HEAD_PX + (tallest - 1) * ROW_PX + DEVICE_PX.height + FOOT_PX,
    })),
    nodes,
    edges: links.flatMap((link) => {
      const hasCable = CABLED.includes(link.kind);
      return link.members.slice(1).map((member, at) => {
        // What shares a medium is drawn from whoever gathers it.
        const from = link.members[link.kind === "radio" || link.kind === "power-line" ? 0 : at]!.item;
        return {
          id: `${link.id}:${at}`,
          from,
          to: member.item,
          ...sides(nodes, from, member.item, hasCable),
          kind: link.kind,
          distanceM: link.ends[at + 1]!.cableM,
          hasCable,
        };
      });
    }),
  };
}

/** Downward within a column, sideways between neighbours; past a column, cables run below and radio above. */
function sides(
  nodes: readonly MapNode[],
  from: string,
  to: string,
  hasCable: boolean,
): { readonly leaves: Side; readonly enters: Side } {
  const [a, b] = [nodes.find(({ id }) => id === from), nodes.find(({ id }) => id === to)];
  if (a && b && Math.abs(a.x - b.x) > COLUMN_PX)
    return hasCable ? { leaves: "bottom", enters: "bottom" } : { leaves: "top", enters: "top" };
  if (!a || !b || a.x < b.x) return { leaves: "right", enters: "left" };
  if (a.x > b.x) return { leaves: "left", enters: "right" };
  // Past a device between the two, beside the column.
  if (Math.abs(a.y - b.y) > ROW_PX) return { leaves: "right", enters: "right" };
  return a.y < b.y ? { leaves: "bottom", enters: "top" } : { leaves: "top", enters: "bottom" };
}
