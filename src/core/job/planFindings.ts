import { said, type Sentence } from "@/core/sentence";
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
 * For example: Of every shipped pattern: nothing at `stop`.
 */
export function planFindings(plan: ResolvedPlan): readonly Finding[] {
  return PLAN_CHECKS.flatMap((check) => check(plan));
}

/** The same thing on several inputs of one meter is said once: "Inputs 1, 2, 3 of Grid meter". */
function alikeTogether(findings: readonly Finding[]): readonly Finding[] {
  const groups = new Map<string, Finding[]>();
  for (const finding of findings) {
    const { subject } = finding;
    const without = (sentence: Sentence) => ofInputs(sentence, subject, []);
    const key =
      subject.kind === "input"
        ? JSON.stringify([finding.code, subject.meter, without(finding.cure), without(finding.detail)])
        : finding.id;
    groups.set(key, [...(groups.get(key) ?? []), finding]);
  }
  return [...groups.values()].map((alike) => {
    const [first] = alike;
    const numbers = alike.flatMap(({ subject }) => (subject.kind === "input" ? [subject.input] : []));
    const together = (sentence: Sentence) => ofInputs(sentence, first!.subject, numbers);
    return alike.length === 1 ? first! : { ...first!, detail: together(first!.detail), cure: together(first!.cure) };
  });
}

/** A sentence about one input as one about several: its "input 1" becomes "inputs 1, 2, 3". */
function ofInputs(sentence: Sentence, subject: Finding["subject"], numbers: readonly number[]): Sentence {
  if (typeof sentence === "string" || subject.kind !== "input") return sentence;
  const isNumber = (at: number) => {
    const [before, part, after] = [sentence[at - 1], sentence[at], sentence[at + 1]];
    const isOwn = typeof part === "object" && part.figure === String(subject.input);
    return isOwn && typeof before === "string" && /[Ii]nput $/.test(before) && String(after).startsWith(" of");
  };
  return sentence.map((part, at) => {
    if (isNumber(at)) return numbers.join(", ");
    return typeof part === "string" && isNumber(at + 1) ? part.replace(/nput $/, "nputs ") : part;
  });
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
        detail: said`Everything that can feed in gives ${threeDigits(feedingA)} A on ${phase}; the main fuse is ${mainFuseA} A.`,
        cure: "Limit the export or the sum of the inverters below the fuse, and ask the network operator",
        source: "Sum of the ratings on the phase against the main fuse",
      },
    ];
  });
}
