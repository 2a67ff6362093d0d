import { joinedSentences, said, together } from "@/core/sentence";
import { divertFinding } from "@/core/control/divertFinding";
import { islandReadings } from "@/core/control/islandReadings";
import type { Finding } from "@/core/findings";
import { given } from "@/core/given";
import type { Kit } from "@/core/kits/kitSchema";
import type { Device, ResolvedPlan } from "@/core/plan/resolvedPlan";
import type { Site, SiteNode } from "@/core/site/planSchema";
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
    return loads.length === 0 ? [] : [...loadFindings(site, node, kit, loads), ...modeFindings(site, node, loads)];
  });
}

/** What the loads ask of the backup output. */
function loadFindings(site: Site, node: SiteNode, kit: Kit, loads: readonly SiteNode[]): readonly Finding[] {
  const { powerW, surgeW } = kit.ratings;
  const ratedW = loads.reduce((sum, load) => sum + usualW(load), 0);
  const motorsW = loads.filter(({ kind }) => kind === "heat-pump").reduce((sum, load) => sum + (load.ratedW ?? 0), 0);
  const perPhase = phaseSums(site, loads);
  const each = [...perPhase].map(([phase, watts]) => said`${phase} ${threeDigits(watts)} W`);
  const shares = [...perPhase.values()];
  const uneven = shares.length > 1 && Math.max(...shares) - Math.min(...shares) > BALANCE_SHARE * Math.max(...shares);
  return given(
    powerW !== undefined &&
      ratedW > powerW &&
      divertFinding(
        "backup-over",
        "fix",
        node.id,
        "More on the backup than it carries",
        said`${node.name}: ${threeDigits(ratedW)} W rated behind ${powerW} W.`,
        "Move loads off the backup board, or shed them in an outage",
        `Kit ${kit.id}, ratings.powerW`,
      ),
    surgeW !== undefined &&
      motorsW * SURGE_TIMES > surgeW &&
      divertFinding(
        "backup-surge",
        "fix",
        node.id,
        "A start that the backup does not carry",
        said`${node.name}: ${threeDigits(motorsW * SURGE_TIMES)} W for a moment, ${surgeW} W surge.`,
        "Fit a soft start, or move it off the backup board",
        `Kit ${kit.id}, ratings.surgeW`,
      ),
    uneven &&
      divertFinding(
        "backup-balance",
        "note",
        node.id,
        "Uneven phases on the backup",
        said`${node.name}: ${joinedSentences(each, ", ")}.`,
        "Spread the loads: in an outage each phase carries only its own",
        "Loads behind the backup output",
      ),
  );
}

/** What differs between the grid and an outage, for whoever proves it. */
function modeFindings(site: Site, node: SiteNode, loads: readonly SiteNode[]): readonly Finding[] {
  return [
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
}

/** Rated power on each phase, W. */
function phaseSums(site: Site, loads: readonly SiteNode[]): ReadonlyMap<string, number> {
  const sums = new Map<string, number>();
  for (const load of loads) {
    const phases = phasesOf(load, site);
    for (const phase of phases) sums.set(phase, (sums.get(phase) ?? 0) + usualW(load) / phases.length);
  }
  return sums;
}

function usualW({ ratedW, nightW }: SiteNode): number {
  return ratedW ?? nightW ?? 0;
}

function isBehind({ parent }: Device, feeder: Device): boolean {
  return parent !== undefined && (parent === feeder || isBehind(parent, feeder));
}
