import { z } from "zod";
import type { LogMapping } from "@/core/flows/log/logOfRows";
import { headerUnit } from "@/core/headerUnit";
import { inputTag } from "@/core/site/inputTag";
import type { NodeKind, Site } from "@/core/site/planSchema";
import { browserSetting } from "@/ui/parts/browser/browserSetting";

/** What moves by itself, so that a log of it tells the CTs apart. */
const MOVING: readonly NodeKind[] = ["pv-inverter", "battery-inverter", "hybrid-inverter", "generator", "ev-charger"];
const SUN_WORDS = /solar|sun|pv|generation|roof/i;

const mappingSchema = z.object({
  time: z.string(),
  series: z.array(
    z.object({
      id: z.string(),
      from: z.object({
        column: z.string(),
        unit: z.enum(["W", "kW", "kWh"]).optional(),
        minus: z.string().optional(),
        isTurned: z.boolean().optional(),
      }),
    }),
  ),
});
const setting = browserSetting("gormit-log-columns", mappingSchema.nullable(), () => null);

/** What can be in a log: every input, and every device that moves by itself. */
export function seriesIds(site: Site) {
  return {
    inputs: site.meters.flatMap((meter) =>
      meter.inputs.map(({ n }) => ({
        id: `input ${meter.id} ${n}`,
        meter: meter.id,
        input: n,
        name: `${inputTag(site, meter.id, n)}, ${meter.name}`,
      })),
    ),
    devices: site.nodes
      .filter(({ kind }) => MOVING.includes(kind))
      .map(({ id, name, kind }) => ({ id: `node ${id}`, node: id, name, kind })),
  };
}

/** The mapping of the last file, where this one has all of its columns. */
export function rememberedMapping(
  { inputs, devices }: ReturnType<typeof seriesIds>,
  columns: readonly string[],
): LogMapping | undefined {
  const last = setting.read();
  const known = new Set([...inputs, ...devices].map(({ id }) => id));
  const named = last
    ? [last.time, ...last.series.flatMap(({ from }) => [from.column, ...(from.minus ? [from.minus] : [])])]
    : [];
  const fits = last?.series.every(({ id }) => known.has(id)) && named.every((name) => columns.includes(name));
  return last && fits ? (last as LogMapping) : undefined;
}

export function rememberMapping(mapping: LogMapping): void {
  setting.choose(mappingSchema.parse(mapping));
}

/** What the names of the columns suggest: a time, an input's tag, the sun. */
export function guessedMapping(
  site: Site,
  { inputs, devices }: ReturnType<typeof seriesIds>,
  columns: readonly string[],
): LogMapping {
  const time = columns.find((name) => /time|date|stamp/i.test(name)) ?? columns[0] ?? "";
  const taken = new Set([time]);
  const take = (matches: (name: string) => boolean) => {
    const column = columns.find((name) => !taken.has(name) && matches(name));
    if (column !== undefined) taken.add(column);
    return column;
  };
  const series = [
    ...inputs.flatMap(({ id, meter, input }) => {
      const tag = inputTag(site, meter, input).toLowerCase();
      const column = take((name) => new RegExp(`\\b${tag}\\b`).test(name.toLowerCase()));
      return column ? [{ id, from: { column, unit: headerUnit(column) } }] : [];
    }),
    ...devices.flatMap(({ id, kind }) => {
      const column = kind === "pv-inverter" ? take((name) => SUN_WORDS.test(name)) : undefined;
      // A portal shows what the sun makes as positive; here what is made is negative.
      return column ? [{ id, from: { column, unit: headerUnit(column), isTurned: true } }] : [];
    }),
  ];
  return { time, series };
}
