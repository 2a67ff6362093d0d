import { MATERIAL_GROUPS, type Material, type MaterialGroup } from "@/core/visit/bring/material";
import { PHASE_WORDS, VISIT_PHASES } from "@/core/visit/visitStep";

/** How the list is read: by what things are, by where they are used, or by when. */
export const MATERIAL_VIEWS = { kind: "by kind", place: "by place", step: "by part of the visit" } as const;
/** One of them. */
export type MaterialView = keyof typeof MATERIAL_VIEWS;

/** Lines under one heading, each with how much of it belongs there. */
export interface MaterialBundle {
  readonly title: string;
  readonly lines: readonly { readonly item: Material; readonly quantity: number }[];
}

/**
 * The list under headings. By place and by part of the visit each heading has the quantity that is used there; the sum
 * over all headings is the line's own, but for a tool that goes along.
 *
 * For example: 6 ferrules at two places: "Plant room" 4 and "North wall" 2.
 *
 * @param places Ids and names, in the order of the plan.
 */
export function groupedMaterials(
  list: readonly Material[],
  view: MaterialView,
  places: readonly { readonly id: string; readonly name: string }[],
): readonly MaterialBundle[] {
  switch (view) {
    case "kind":
      return bundled(Object.keys(MATERIAL_GROUPS) as readonly MaterialGroup[], (group) => ({
        title: MATERIAL_GROUPS[group],
        lines: list.filter((item) => item.group === group).map((item) => ({ item, quantity: item.quantity })),
      }));
    case "place":
      return bundled([...places.map(({ id }) => id), undefined], (id) => ({
        title: places.find((place) => place.id === id)?.name ?? "Everywhere",
        lines: usedLines(list, ({ place }) => (places.some((own) => own.id === place) ? place : undefined) === id),
      }));
    case "step":
      return bundled(VISIT_PHASES, (phase) => ({
        title: PHASE_WORDS[phase],
        lines: usedLines(list, (use) => use.phase === phase),
      }));
  }
}

function bundled<T>(keys: readonly T[], of: (key: T) => MaterialBundle): readonly MaterialBundle[] {
  return keys.map(of).filter(({ lines }) => lines.length > 0);
}

function usedLines(
  list: readonly Material[],
  isHere: (use: Material["uses"][number]) => boolean,
): MaterialBundle["lines"] {
  return list.flatMap((item) => {
    const quantity = item.uses.filter(isHere).reduce((sum, use) => sum + use.quantity, 0);
    return quantity === 0 ? [] : [{ item, quantity: Math.round(quantity * 10) / 10 }];
  });
}
