import type { Finding } from "@/core/findings";
import { deviceChecks } from "@/core/plan/deviceChecks";
import { hostChecks } from "@/core/plan/hostChecks";
import type { Check, ResolvedPlan } from "@/core/plan/resolvedPlan";
import { clampChecks } from "@/core/sensing/clampChecks";
import { deviceCurrentA } from "@/core/sensing/inputFlows";
import { roleChecks } from "@/core/sensing/roleChecks";
import { phasesOfSupply } from "@/core/site/phasors";
import { phasesOf } from "@/core/site/tree";
import { threeDigits } from "@/core/units";

const PLAN_CHECKS: readonly Check[] = [
  roleChecks,
  (plan) => alikeTogether(clampChecks(plan)),
  deviceChecks,
  hostChecks,
  mainFuseChecks,
];

/**
 * All that can be found in a plan before anyone is on site: runs against roles, CTs against runs, kits and leads,
 * devices against kits and places, generation against the main fuse.
 *
 * @example Of every shipped pattern: nothing at `stop`.
 */
export function planFindings(plan: ResolvedPlan): readonly Finding[] {
  return PLAN_CHECKS.flatMap((check) => check(plan));
}

/** The same thing on several inputs of one meter is said once: "Inputs 1, 2, 3 of Grid meter". */
function alikeTogether(findings: readonly Finding[]): readonly Finding[] {
  const groups = new Map<string, Finding[]>();
  for (const finding of findings) {
    const { subject } = finding;
    const key =
      subject.kind === "input"
        ? JSON.stringify([finding.code, subject.meter, withoutNumber(finding.cure), withoutNumber(finding.detail)])
        : finding.id;
    groups.set(key, [...(groups.get(key) ?? []), finding]);
  }
  return [...groups.values()].map((alike) => {
    const numbers = alike.flatMap(({ subject }) => (subject.kind === "input" ? [subject.input] : []));
    const together = (text: string) =>
      text.replace(INPUT_NUMBER, (_all, initial: string) => `${initial}nputs ${numbers.join(", ")} of`);
    return alike.length === 1
      ? alike[0]!
      : { ...alike[0]!, detail: together(alike[0]!.detail), cure: together(alike[0]!.cure) };
  });
}

const INPUT_NUMBER = /([Ii])nput \d+ of/;

function withoutNumber(text: string): string {
  return text.replace(INPUT_NUMBER, "");
}

function mainFuseChecks({ site }: ResolvedPlan): readonly Finding[] {
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
        detail: `Everything that can feed in gives ${threeDigits(feedingA)} A on ${phase}; the main fuse is ${mainFuseA} A.`,
        cure: "Limit the export or the sum of the inverters below the fuse, and ask the network operator",
        source: "Sum of the ratings on the phase against the main fuse",
      },
    ];
  });
}
