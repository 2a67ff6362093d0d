import type { Finding } from "@/core/findings";
import type { ResolvedPlan } from "@/core/plan/resolvedPlan";
import { deviceCurrentA } from "@/core/sensing/inputFlows";
import { said, together } from "@/core/sentence";
import { phasesOfSupply } from "@/core/site/phasors";
import { phasesOf } from "@/core/site/tree";
import { threeDigits } from "@/core/units";

/**
 * Whether everything that can feed in stays below the main fuse, phase by phase. For example: three inverters of 20 A
 * each on L1 behind 50 A: `generation-over-fuse`.
 */
export function mainFuseChecks({ site }: ResolvedPlan): readonly Finding[] {
  const { mainFuseA } = site.supply;
  if (mainFuseA === undefined) return [];
  const sources = site.nodes.filter(
    (node) => node.kind === "pv-inverter" || node.kind === "battery-inverter" || node.kind === "hybrid-inverter",
  );
  return phasesOfSupply(site.supply).flatMap((phase): readonly Finding[] => {
    const feedingA = sources
      .filter((node) => phasesOf(node, site).includes(phase))
      .reduce((sum, node) => sum + deviceCurrentA(site, node, node.ratedW ?? 0), 0);
    if (feedingA <= mainFuseA) return [];
    return [
      {
        id: `generation-over-fuse:${phase}`,
        code: "generation-over-fuse",
        severity: "fix",
        stage: "plan",
        subject: { kind: "job" },
        title: "Generation above the main fuse",
        detail: together(
          said`Everything that can feed in gives ${threeDigits(feedingA)} A on ${phase}; the main fuse `,
          said`is ${mainFuseA} A.`,
        ),
        cure: "Limit the export or the sum of the inverters below the fuse, and ask the network operator",
        source: "Sum of the ratings on the phase against the main fuse",
      },
    ];
  });
}
