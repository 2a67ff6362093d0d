import { said } from "@/core/sentence";
import type { Finding } from "@/core/findings";
import type { ResolvedPlan } from "@/core/plan/resolvedPlan";

/**
 * Devices that cannot be told apart by their names: steps, findings, labels and menus say nothing but the name.
 *
 * For example: Two inverters that are both called "Roof inverter": one `same-name`, at the second.
 */
export function nameChecks({ nodes, equipment, meters }: ResolvedPlan): readonly Finding[] {
  // A meter may be called as the device that it is part of.
  return [
    ...repeated([...nodes, ...equipment]),
    ...repeated(meters.map(({ id, meter }) => ({ id, name: meter.name }))),
  ];
}

function repeated(items: readonly { readonly id: string; readonly name: string }[]): readonly Finding[] {
  const first = new Map<string, string>();
  return items.flatMap(({ id, name }): readonly Finding[] => {
    const called = name.trim().toLowerCase();
    if (!first.has(called)) {
      first.set(called, id);
      return [];
    }
    return [
      {
        id: `same-name:${id}`,
        code: "same-name",
        severity: "note",
        stage: "plan",
        subject: { kind: "node", node: id },
        title: "Two have one name",
        detail: said`There is more than one ${name}: steps, findings and labels do not tell them apart.`,
        cure: said`Give each ${name} a name of its own, such as where it stands`,
        source: "Names are all that a sheet, a label or a menu shows of a device",
      },
    ];
  });
}
