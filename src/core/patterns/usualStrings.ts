import type { Kit } from "@/core/kits/kitSchema";
import type { PvString } from "@/core/plan/visitSettings";
import type { Site, SiteNode } from "@/core/site/planSchema";

/** A usual module: its rating, and its open-circuit voltage at 25 °C. */
const MODULE_W = 420;
const MODULE_VOC_V = 41;
/** A string of more would be too much for many inverters on a cold morning. */
const MOST_IN_A_STRING = 14;

/**
 * The strings that a new inverter of this rating usually has, to begin with: whoever knows the roof changes them, and
 * their limits follow. A unit under a module has that module only.
 *
 * For example: 10 kW: 24 modules, two strings of 12.
 */
export function usualStrings(site: Site, kits: readonly Kit[]): readonly PvString[] {
  return site.nodes
    .filter(({ kind, existing }) => (kind === "pv-inverter" || kind === "hybrid-inverter") && existing !== true)
    .flatMap((node) =>
      stringsOf(
        node,
        kits.find(({ id }) => id === node.kit),
      ),
    );
}

function stringsOf({ id, name, ratedW }: SiteNode, kit: Kit | undefined): readonly PvString[] {
  const common = { device: id, vocV: MODULE_VOC_V };
  if (kit?.ports.some(({ kind }) => kind === "power-line")) return [{ ...common, name: "Each module", modules: 1 }];
  const all = Math.max(1, Math.round((ratedW ?? kit?.ratings.powerW ?? MODULE_W * MOST_IN_A_STRING) / MODULE_W));
  const count = Math.ceil(all / MOST_IN_A_STRING);
  const modules = Math.max(1, Math.round(all / count));
  return Array.from({ length: count }, (_, at) => ({
    ...common,
    name: count === 1 ? `String of ${name}`.slice(0, 40) : `String ${at + 1}`,
    modules,
  }));
}
