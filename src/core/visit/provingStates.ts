import { statePresets, type StatePreset } from "@/core/flows/statePresets";
import type { KnownDevice } from "@/core/flows/testSheetSchema";
import type { Site, SiteNode } from "@/core/site/planSchema";
import { siteTree } from "@/core/site/tree";

/** What a battery, the sun or a generator is brought to, as a share of its rating. */
const SOURCE_SHARE = 0.6;
const USUAL_RATED_W = 3000;
/** How well the power of a load is known from its plate, and of a source from its own display. */
const LOAD_TOLERANCE = 0.05;
const SOURCE_TOLERANCE = 0.03;

const SOURCES: readonly SiteNode["kind"][] = ["pv-inverter", "battery-inverter", "hybrid-inverter", "generator"];

/** A state of the site in which its readings are proved. */
export interface ProvingState extends StatePreset {
  /** What is switched or run for it. */
  readonly about: readonly SiteNode[];
  /** The grid is off in it. */
  readonly isIsland: boolean;
}

/** A backup side: the board that stays on when the grid is gone, and what feeds it then. */
export interface BackupSide {
  readonly source: SiteNode;
  readonly board: SiteNode;
}

/**
 * Every state in which something flows that flows in no other: at rest, each load, each source each way, and on a
 * site with a backup side the grid off, the generator alone, and the grid back. In the order of the least switching:
 * loads while nothing feeds in, heaters while they are cold, sources after them, the grid off last.
 *
 * For example: a house with solar and a kettle: at rest, kettle, sun.
 *
 * @param backup Where the site has one.
 */
export function provingStates(site: Site, backup: BackupSide | undefined): readonly ProvingState[] {
  const nodeOf = siteTree(site).nodeById;
  const presets = statePresets(site).map((preset): ProvingState => {
    const node = nodeOf.get(preset.id.slice(preset.id.indexOf(":") + 1));
    const solar = site.nodes.filter(({ kind }) => kind === "pv-inverter" || kind === "hybrid-inverter");
    return { ...preset, about: preset.id === "sun" ? solar : node ? [node] : [], isIsland: false };
  });
  const onGrid = presets.filter(({ id }) => !id.startsWith("running:"));
  return [...onGrid.toSorted((a, b) => rank(a) - rank(b)), ...islandStates(site, backup, presets)];
}

const RANKS = ["night", "load", "sun", "charging", "discharging"] as const;

function rank({ id }: StatePreset): number {
  const [kind] = id.split(":");
  return RANKS.indexOf(kind === "on" ? "load" : (kind as (typeof RANKS)[number]));
}

/** The grid off: what the backup side draws comes from the island's source, or from the generator. */
function islandStates(
  site: Site,
  backup: BackupSide | undefined,
  presets: readonly ProvingState[],
): readonly ProvingState[] {
  const generators = site.nodes.filter(({ kind }) => kind === "generator");
  if (!backup) return presets.filter(({ id }) => id.startsWith("running:"));
  const below = siteTree(site).belowRun.get(backup.board.id) ?? new Set();
  const island = backup.source;
  const night = presets.find(({ id }) => id === "night")!;
  const rest = night.state.devices.filter(({ node }) => below.has(node));
  const drawnW = rest.reduce((sum, { powerW }) => sum + powerW, 0);
  const off = (id: string, label: string, about: readonly SiteNode[], devices: readonly [SiteNode, number][]) => ({
    id,
    label,
    about,
    isIsland: true,
    state: {
      devices: [...rest, ...devices.map(([node, powerW]) => ({ node: node.id, powerW, reactiveVar: 0 }))],
    },
  });
  return [
    off("grid-off", "grid off, backup on the battery", [island], [[island, -drawnW]]),
    ...generators.map((node) => {
      const madeW = Math.round(SOURCE_SHARE * (node.ratedW ?? USUAL_RATED_W));
      // What the backup side does not draw goes into the battery.
      return off(
        `running:${node.id}`,
        `${node.name} running, grid off`,
        [node, island],
        [
          [node, -madeW],
          [island, madeW - drawnW],
        ],
      );
    }),
    { ...night, id: "grid-back", label: "grid back", about: [island], isIsland: false },
  ];
}

/** The same as the proof takes it: what is on with its power, every source that is off with none. */
export function knownDevices(site: Site, { about, state }: ProvingState): readonly KnownDevice[] {
  const ids = new Set(about.map(({ id }) => id));
  return site.nodes
    .filter(({ id, kind }) => SOURCES.includes(kind) || ids.has(id))
    .map((node) => {
      const powerW = state.devices.find((device) => device.node === node.id)?.powerW ?? 0;
      const share = SOURCES.includes(node.kind) ? SOURCE_TOLERANCE : LOAD_TOLERANCE;
      return { node: node.id, powerW, reactiveVar: 0, toleranceW: Math.abs(powerW) * share };
    });
}
