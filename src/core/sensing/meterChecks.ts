import type { Finding } from "@/core/findings";
import type { PlanMeter, ResolvedPlan } from "@/core/plan/resolvedPlan";
import { said } from "@/core/sentence";
import { joined } from "@/core/words";

/**
 * Inputs of one meter that are for the same thing and have different primaries are doubted: on three phases of one run
 * the CTs are alike, and a ratio that was missed is the usual reason.
 *
 * For example: 100 A on L1 and L2 and 200 A on L3 of a main board: one note.
 */
export function meterChecks({ meters }: ResolvedPlan): readonly Finding[] {
  return meters.flatMap(primaryFindings);
}

function primaryFindings({ id, meter, inputs }: PlanMeter): readonly Finding[] {
  const clamped = inputs.filter(({ input }) => !input.builtIn);
  const groups = new Map<string, number[]>();
  for (const { input } of clamped) {
    // Circuits of their own may differ; the phases of one run may not.
    const key = JSON.stringify([input.role, input.measures.map(({ run }) => run).toSorted()]);
    groups.set(key, [...(groups.get(key) ?? []), input.primaryA]);
  }
  return [...groups.values()]
    .map((primaries) => [...new Set(primaries)])
    .filter((primaries) => primaries.length > 1)
    .map((primaries, at) => ({
      id: `primaries-differ:${id}:${at}`,
      code: "primaries-differ",
      severity: "note",
      stage: "plan",
      subject: { kind: "meter", meter: id },
      title: "CTs of one circuit with different primaries",
      detail: said`${meter.name}: ${joined(primaries.map((primary) => `${primary} A`))} on the phases of one circuit.`,
      cure: "Take the same CT on each phase, or read the plates once more",
      source: "CTs of one circuit are alike",
    }));
}
