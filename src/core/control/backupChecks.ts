import { joinedSentences, said, together } from "@/core/sentence";
import { divertFinding } from "@/core/control/divertFinding";
import { islandReadings } from "@/core/control/islandReadings";
import type { Finding } from "@/core/findings";
import type { Device, ResolvedPlan } from "@/core/plan/resolvedPlan";
import { phasesOf } from "@/core/site/tree";
import { threeDigits } from "@/core/units";

const SURGE_TIMES = 3;
const BALANCE_SHARE = 0.3;

/**
 * Loads behind a backup output: sum against its continuous and surge rating, balance of the phases, and what the meters
 * read in an outage; where neutral and earth are joined is for local rules and the kit.
 */
export function backupChecks({ site, nodes }: ResolvedPlan): readonly Finding[] {
  return nodes.flatMap((device): readonly Finding[] => {
    const { node, kit } = device;
    if (!node || !kit || (kit.kind !== "hybrid-inverter" && kit.kind !== "backup-box")) return [];
    const behind = nodes.filter((other) => isBehind(other, device)).flatMap((other) => other.node ?? []);
    const loads = behind.filter(({ kind }) => kind === "load" || kind === "heat-pump" || kind === "ev-charger");
    if (loads.length === 0) return [];
    const { powerW, surgeW } = kit.ratings;
    const ratedW = loads.reduce((sum, load) => sum + (load.ratedW ?? load.nightW ?? 0), 0);
    const motors = loads.filter(({ kind }) => kind === "heat-pump").reduce((sum, load) => sum + (load.ratedW ?? 0), 0);
    const perPhase = new Map<string, number>();
    for (const load of loads)
      for (const phase of phasesOf(load, site))
        perPhase.set(
          phase,
          (perPhase.get(phase) ?? 0) + (load.ratedW ?? load.nightW ?? 0) / phasesOf(load, site).length,
        );
    const each = [...perPhase].map(([phase, watts]) => said`${phase} ${threeDigits(watts)} W`);
    const shares = [...perPhase.values()];
    const uneven = shares.length > 1 && Math.max(...shares) - Math.min(...shares) > BALANCE_SHARE * Math.max(...shares);
    return [
      ...(powerW !== undefined && ratedW > powerW
        ? [
            divertFinding(
              "backup-over",
              "fix",
              node.id,
              "More on the backup than it carries",
              said`${node.name}: ${threeDigits(ratedW)} W rated behind ${powerW} W.`,
              "Move loads off the backup board, or shed them in an outage",
              `Kit ${kit.id}, ratings.powerW`,
            ),
          ]
        : []),
      ...(surgeW !== undefined && motors * SURGE_TIMES > surgeW
        ? [
            divertFinding(
              "backup-surge",
              "fix",
              node.id,
              "A start that the backup does not carry",
              said`${node.name}: ${threeDigits(motors * SURGE_TIMES)} W for a moment, ${surgeW} W surge.`,
              "Fit a soft start, or move it off the backup board",
              `Kit ${kit.id}, ratings.surgeW`,
            ),
          ]
        : []),
      ...(uneven
        ? [
            divertFinding(
              "backup-balance",
              "note",
              node.id,
              "Uneven phases on the backup",
              said`${node.name}: ${joinedSentences(each, ", ")}.`,
              "Spread the loads: in an outage each phase carries only its own",
              "Loads behind the backup output",
            ),
          ]
        : []),
      divertFinding(
        "island-readings",
        "note",
        node.id,
        "What the meters read in an outage",
        said`With the loads behind ${node.name} on and the grid away: ${islandReadings(site, node, loads)}.`,
        "Pull the main switch, and compare",
        "Plan, with the grid away",
      ),
      divertFinding(
        "neutral-earth",
        "note",
        node.id,
        "Neutral and earth in backup",
        together(
          said`${node.name}: joined in exactly one place in each mode; a generator comes in only where the kit `,
          "has an input for it.",
        ),
        "Follow local rules and the maker's manual, and prove it in both modes",
        "Maker's manual; local rules",
      ),
    ];
  });
}

function isBehind({ parent }: Device, feeder: Device): boolean {
  return parent !== undefined && (parent === feeder || isBehind(parent, feeder));
}
