import { said } from "@/core/sentence";
import type { Finding } from "@/core/findings";
import type { ResolvedPlan } from "@/core/plan/resolvedPlan";

interface Named extends Pick<Finding, "id" | "subject"> {
  readonly name: string;
}

/**
 * Devices that cannot be told apart by their names: steps, findings, labels and menus say nothing but the name.
 *
 * For example: Two inverters that are both called "Roof inverter": one `same-name`, at the second.
 */
export function nameChecks({ nodes, equipment, meters }: ResolvedPlan): readonly Finding[] {
  return [
    ...repeated([
      ...nodes.map(({ id, name }): Named => ({ id, name, subject: { kind: "node", node: id } })),
      ...equipment.map(({ id, name }): Named => ({ id, name, subject: { kind: "job" } })),
    ]),
    // A meter may be called as the device that it is part of.
    ...repeated(meters.map(({ id, meter: { name } }): Named => ({ id, name, subject: { kind: "meter", meter: id } }))),
  ];
}

function repeated(items: readonly Named[]): readonly Finding[] {
  const seen = new Set<string>();
  return items.flatMap(({ id, name, subject }): readonly Finding[] => {
    const called = name.trim().toLowerCase();
    if (!seen.has(called)) {
      seen.add(called);
      return [];
    }
    return [
      {
        id: `same-name:${id}`,
        code: "same-name",
        severity: "note",
        stage: "plan",
        subject,
        title: "Two have one name",
        detail: said`There is more than one ${name}: steps, findings and labels do not tell them apart.`,
        cure: said`Give each ${name} a name of its own, such as where it stands`,
        source: "Names are all that a sheet, a label or a menu shows of a device",
      },
    ];
  });
}
