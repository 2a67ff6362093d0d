import { predict } from "@/core/flows/predict";
import type { Site, SiteNode } from "@/core/site/planSchema";
import { allOf, said, type Sentence } from "@/core/sentence";
import { saidPower } from "@/core/units";

const NOTHING_BELOW_W = 1;

/**
 * What the meters should read in an outage: the backup feeds what is behind it, everything else is dead.
 *
 * For example: "Backup meter input 1 860 W, every other input 0 W"
 *
 * @param loads Behind the backup output, each at its rating, or what it draws at night.
 */
export function islandReadings(site: Site, backup: SiteNode, loads: readonly SiteNode[]): Sentence {
  const drawn = loads.map((load) => ({ node: load.id, powerW: load.ratedW ?? load.nightW ?? 0, reactiveVar: 0 }));
  const given = { node: backup.id, powerW: -drawn.reduce((sum, { powerW }) => sum + powerW, 0), reactiveVar: 0 };
  const dead = site.nodes
    .filter(
      ({ id, kind }) =>
        kind !== "grid" && kind !== "board" && id !== backup.id && drawn.every(({ node }) => node !== id),
    )
    .map(({ id }) => ({ node: id, powerW: 0, reactiveVar: 0 }));
  const { inputs } = predict(site, "planned", { devices: [...drawn, given, ...dead] });
  const names = new Map(site.meters.map(({ id, name }) => [id, name]));
  const busy = inputs
    .filter(({ powerW }) => Math.abs(powerW) >= NOTHING_BELOW_W)
    .map(({ meter, input, powerW }) => said`${names.get(meter)} input ${input} ${saidPower(powerW)}`);
  if (inputs.length === 0) return "no meter of this plan reads anything";
  return busy.length === 0
    ? "every input 0 W"
    : said`${allOf(busy)}${busy.length < inputs.length ? ", every other input 0 W" : ""}`;
}
