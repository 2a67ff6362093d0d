import { isCurrentOutput } from "@/core/sensing/ctBurden";
import type { ResolvedPlan } from "@/core/plan/resolvedPlan";
import { inputTag } from "@/core/site/inputTag";
import { brought, type MaterialDraft } from "@/core/visit/bring/material";

/** Lifting above this is for two, or a lift, kg. */
const ALONE_KG = 25;

/** The devices themselves. */
export function deviceLines(plan: ResolvedPlan): readonly MaterialDraft[] {
  return brought(plan).map(({ name, kit, place }) => ({
    id: `kit:${kit.id}`,
    group: "devices",
    text: kit.name,
    // Two halves are sold as one pair.
    quantity: kit.kind === "radio-pair" ? 0.5 : 1,
    unit: "pcs",
    why: name,
    place: place?.id,
    phase: "mount",
  }));
}

/** CTs by kind and ratio; what carries a current brings its shorting link. */
export function clampLines({ site, inputs, deviceById }: ResolvedPlan): readonly MaterialDraft[] {
  return inputs
    .filter(({ input }) => !input.builtIn)
    .flatMap(({ meter, input, ctKit }): readonly MaterialDraft[] => {
      const turns = input.clamp?.turns ?? 1;
      const primaryA = input.primaryA * turns;
      const run = deviceById.get(input.measures[0]?.run ?? "");
      const common = {
        quantity: 1,
        unit: "pcs" as const,
        // Round what comes from the supply it is clamped at the board.
        place: (run?.parent?.place ?? run?.place)?.id,
        phase: "clamps" as const,
      };
      return [
        {
          ...common,
          id: `ct:${ctKit?.id ?? "any"}:${primaryA}:${input.secondary.value}${input.secondary.unit}`,
          group: "clamps",
          text:
            `${ctKit?.name ?? "CT"}, ${Number(primaryA.toPrecision(4))} A : ${input.secondary.value} ` +
            `${input.secondary.unit}${input.clamp?.class ? `, class ${input.clamp.class}` : ""}`,
          why: inputTag(site, meter.id, input.n),
        },
        ...(isCurrentOutput(input.secondary)
          ? [
              {
                ...common,
                id: "tool:shorting",
                group: "tools" as const,
                text: "Shorting link for current-output CTs",
                why: "leads are shorted before they are touched on a live conductor",
              },
            ]
          : []),
      ];
    });
}

/** Help where something is heavy. */
export function helpLines(plan: ResolvedPlan): readonly MaterialDraft[] {
  return brought(plan)
    .filter(({ kit }) => (kit.environment.weightKg ?? 0) > ALONE_KG)
    .map(({ name, kit, place }) => ({
      id: `lift:${kit.id}`,
      group: "help",
      text: `Second person or lift for ${kit.name}`,
      quantity: 1,
      unit: "pcs",
      why: `${name}: ${kit.environment.weightKg} kg`,
      place: place?.id,
      phase: "mount",
    }));
}
