import { islandReadings } from "@/core/control/islandReadings";
import type { Finding } from "@/core/findings";
import type { Kit } from "@/core/kits/kitSchema";
import type { Link } from "@/core/links/linkSchema";
import { distanceBetween } from "@/core/site/distances";
import type { Site, SiteNode } from "@/core/site/planSchema";
import { phaseVoltage, magnitude } from "@/core/site/phasors";
import { phasesOf } from "@/core/site/tree";
import { threeDigits } from "@/core/units";
import { joined } from "@/core/words";

/** Usual load of a fixed copper cable in a wall, A by section; local rules decide. */
const CABLE_A: readonly (readonly [number, number])[] = [
  [1, 11],
  [1.5, 14.5],
  [2.5, 19.5],
  [4, 26],
  [6, 34],
  [10, 46],
  [16, 61],
  [25, 80],
];
const SURGE_TIMES = 3;
const BALANCE_SHARE = 0.3;

/** What is known of each heater beside the plan. */
export interface HeaterFacts {
  readonly weeksAt60: number;
  readonly weeks: number;
}

function make(
  code: string,
  severity: Finding["severity"],
  node: string,
  title: string,
  detail: string,
  cure: string,
  source: string,
): Finding {
  return {
    id: `${code}:${node}`,
    code,
    severity,
    stage: "divert",
    subject: { kind: "node", node },
    title,
    detail,
    cure,
    source,
  };
}

/** The current that a usual cable carries, A; undefined for a section that is not in the table. */
function cableCurrentA(mm2: number): number | undefined {
  return CABLE_A.find(([section]) => section === mm2)?.[1];
}

/**
 * Heaters on a diverter: element against the diverter's rating and its cable; what stays in the circuit; and, where a
 * year
 * was simulated, whether the water gets hot enough for hygiene.
 *
 * @example An element of 3600 W on a diverter of 3000 W: `element-over-rating` at `fix`.
 */
export function heaterChecks(site: Site, kits: readonly Kit[], facts?: HeaterFacts): readonly Finding[] {
  return site.nodes
    .filter(({ kind }) => kind === "diverter")
    .flatMap((node): readonly Finding[] => {
      const kit = kits.find(({ id }) => id === node.kit);
      const ratedW = kit?.ratings.powerW;
      const elementW = node.ratedW;
      const volts = magnitude(phaseVoltage(site.supply, phasesOf(node, site)[0] ?? "L1"));
      const currentA = elementW === undefined ? undefined : elementW / volts;
      const carriesA = node.cableMm2 === undefined ? undefined : cableCurrentA(node.cableMm2);
      return [
        ...(elementW !== undefined && ratedW !== undefined && elementW > ratedW
          ? [
              make(
                "element-over-rating",
                "fix",
                node.id,
                "Element too large for the diverter",
                `${node.name}: ${elementW} W on ${ratedW} W.`,
                "Fit a smaller element, or a larger diverter",
                `Kit ${kit!.id}, ratings.powerW`,
              ),
            ]
          : []),
        ...(currentA !== undefined && carriesA !== undefined && currentA > carriesA
          ? [
              make(
                "element-cable",
                "fix",
                node.id,
                "Cable too thin for the element",
                `${node.name}: ${threeDigits(currentA)} A over ${node.cableMm2} mm², which usually carries ${carriesA} A.`,
                "Take a thicker cable; local rules decide which",
                "Usual load of a fixed copper cable",
              ),
            ]
          : []),
        ...(currentA !== undefined && node.fuseA !== undefined && currentA > node.fuseA
          ? [
              make(
                "element-fuse",
                "fix",
                node.id,
                "Breaker too small for the element",
                `${node.name}: ${threeDigits(currentA)} A on ${node.fuseA} A.`,
                "Fit the breaker that the cable allows",
                "Breaker of the run",
              ),
            ]
          : []),
        make(
          "thermostat-stays",
          "note",
          node.id,
          "Thermostat and cut-out stay in the circuit",
          `${node.name}: the diverter comes before the thermostat; the over-temperature cut-out is left as it is; with two elements H1 is the lower and is heated first.`,
          "Check both with the tank hot, and write it down",
          "Maker's manuals of tank and diverter; local rules",
        ),
        ...(facts && facts.weeks > 0 && facts.weeksAt60 < facts.weeks
          ? [
              make(
                "hygiene",
                "note",
                node.id,
                "Not at 60 °C every week",
                `${facts.weeksAt60} of ${facts.weeks} weeks reach 60 °C.`,
                "Set a weekly boost, or raise the thermostat; adjust to the local rule",
                "Simulated year; 60 °C at least weekly",
              ),
            ]
          : []),
      ];
    });
}

/**
 * Loads behind a backup output: sum against its continuous and surge rating, balance of the phases, and what the meters
 * read in an outage; where neutral and earth are joined is for local rules and the kit.
 */
export function backupChecks(site: Site, kits: readonly Kit[]): readonly Finding[] {
  return site.nodes.flatMap((node): readonly Finding[] => {
    const kit = kits.find(({ id }) => id === node.kit);
    if (!kit || (kit.kind !== "hybrid-inverter" && kit.kind !== "backup-box")) return [];
    const behind = site.nodes.filter((other) => isBehind(site, other, node.id));
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
    const shares = [...perPhase.values()];
    const uneven = shares.length > 1 && Math.max(...shares) - Math.min(...shares) > BALANCE_SHARE * Math.max(...shares);
    return [
      ...(powerW !== undefined && ratedW > powerW
        ? [
            make(
              "backup-over",
              "fix",
              node.id,
              "More on the backup than it carries",
              `${node.name}: ${threeDigits(ratedW)} W rated behind ${powerW} W.`,
              "Move loads off the backup board, or shed them in an outage",
              `Kit ${kit.id}, ratings.powerW`,
            ),
          ]
        : []),
      ...(surgeW !== undefined && motors * SURGE_TIMES > surgeW
        ? [
            make(
              "backup-surge",
              "fix",
              node.id,
              "A start that the backup does not carry",
              `${node.name}: ${threeDigits(motors * SURGE_TIMES)} W for a moment, ${surgeW} W surge.`,
              "Fit a soft start, or move it off the backup board",
              `Kit ${kit.id}, ratings.surgeW`,
            ),
          ]
        : []),
      ...(uneven
        ? [
            make(
              "backup-balance",
              "note",
              node.id,
              "Uneven phases on the backup",
              `${node.name}: ${[...perPhase].map(([phase, watts]) => `${phase} ${threeDigits(watts)} W`).join(", ")}.`,
              "Spread the loads: in an outage each phase carries only its own",
              "Loads behind the backup output",
            ),
          ]
        : []),
      make(
        "island-readings",
        "note",
        node.id,
        "What the meters read in an outage",
        `With the loads behind ${node.name} on and the grid away: ${islandReadings(site, node, loads)}.`,
        "Pull the main switch, and compare",
        "Plan, with the grid away",
      ),
      make(
        "neutral-earth",
        "note",
        node.id,
        "Neutral and earth in backup",
        `${node.name}: joined in exactly one place in each mode; a generator comes in only where the kit has an input for it.`,
        "Follow local rules and the maker's manual, and prove it in both modes",
        "Maker's manual; local rules",
      ),
    ];
  });
}

function isBehind(site: Site, node: SiteNode, feeder: string): boolean {
  const fed = site.nodes.find(({ id }) => id === node.fedFrom);
  return fed !== undefined && (fed.id === feeder || isBehind(site, fed, feeder));
}

/** Each hub with what follows it: who holds the channel, and the pairing window against the longest way. */
export function hubChecks(site: Site, kits: readonly Kit[], links: readonly Link[]): readonly Finding[] {
  const itemOf = (id: string) => [...site.nodes, ...site.meters, ...site.equipment].find((item) => item.id === id);
  return links
    .filter(({ kind }) => kind === "radio")
    .flatMap((link): readonly Finding[] => {
      const hub = itemOf(link.members[0]!.item);
      const kit = kits.find(({ id }) => id === hub?.kit);
      if (!hub || !kit || kit.kind === "radio-pair") return [];
      const followers = link.members.slice(1).flatMap((member) => itemOf(member.item) ?? []);
      const longestMin = Math.max(
        0,
        ...followers.map(({ place }) => distanceBetween(site, hub.place, place).walkMin ?? 0),
      );
      const windowS = kit.timers.pairingWindowS;
      return [
        make(
          "hub",
          "note",
          hub.id,
          "The hub and what follows it",
          `${hub.name} is the hub of ${joined(followers.map(({ name }) => name))} and holds the channel${windowS === undefined ? "" : `; its window is ${windowS} s, the longest way ${longestMin} min`}.`,
          windowS !== undefined && longestMin * 60 > windowS
            ? "Pair beside the hub, then hang it"
            : "Pair the hub first, then each follower",
          `Kit ${kit.id}, timers.pairingWindowS`,
        ),
      ];
    });
}
