import { z } from "zod";
import { backgroundShape, defaultBackground, noiseShape, type Background } from "@/core/flows/testSheetSchema";
import { idSchema } from "@/core/names";
import { refineWith, type Problem } from "@/core/problem";
import { siteSchema } from "@/core/site/siteSchema";
import type { Site } from "@/core/site/planSchema";
import { siteTree } from "@/core/site/tree";

const MAX_ROWS = 20_000;
const MAX_SERIES = 60;
/** More numbers than these are more than a request may hold. */
const MAX_VALUES = 300_000;
const FEWEST_ROWS = 3;

const seriesOf = z.array(z.number().min(-1e9).max(1e9).nullable()).max(MAX_ROWS);

const logShape = z.object({
  times: z.array(z.number().min(-1e12).max(1e12)).min(FEWEST_ROWS, "a log has at least three rows").max(MAX_ROWS),
  readings: z
    .array(z.object({ meter: idSchema, input: z.int().min(1).max(99), powerW: seriesOf }))
    .min(1, "name at least one input")
    .max(MAX_SERIES),
  known: z
    .array(
      z.object({
        node: idSchema,
        powerW: seriesOf,
        tolerancePct: z.number().min(0).max(100).default(3),
        toleranceW: z.number().min(0).max(1e9).default(20),
      }),
    )
    .max(MAX_SERIES)
    .default([]),
  background: z.array(backgroundShape).max(50).optional(),
  noise: noiseShape.default({ absoluteW: 8, relative: 0.01 }),
  maxFaults: z.int().min(0).max(2).default(1),
});

/** What the route `diagnose-log` takes: a site, and hours of readings as they were recorded; s and W. */
export const diagnoseLogRequestSchema = z
  .object({ site: siteSchema, ...logShape.shape })
  .superRefine(refineWith(({ site, ...log }) => logProblems(log, site)));

/** Hours of readings: times in s, W in each input's own sign; null where nothing was recorded. */
export type ReadingLog = z.output<typeof logShape>;

/** What is assumed of loads that nobody switched. */
export function backgroundOf({ background }: ReadingLog, site: Site): readonly Background[] {
  return background ?? defaultBackground(site);
}

function logProblems(log: ReadingLog, site: Site): readonly Problem[] {
  const { times, readings, known, background = [] } = log;
  const { nodeById } = siteTree(site);
  const unsorted = times.findIndex((time, at) => at > 0 && time <= times[at - 1]!);
  const count = times.length;
  const total = count * (readings.length + known.length);
  const length = (own: readonly unknown[], path: (string | number)[]): readonly Problem[] =>
    own.length === count ? [] : [{ path, message: `${own.length} values for ${count} times` }];
  const isNode = (id: string) => nodeById.has(id) && nodeById.get(id)!.kind !== "grid";
  return [
    ...(unsorted > 0 ? [{ path: ["times", unsorted], message: "times go on from row to row" }] : []),
    ...(total > MAX_VALUES ? [{ path: ["times"], message: `${total} values; at most ${MAX_VALUES}` }] : []),
    ...readings.flatMap(({ meter, input, powerW }, at): readonly Problem[] => {
      const own = site.meters.find(({ id }) => id === meter);
      const isTwice = readings.findIndex((other) => other.meter === meter && other.input === input) < at;
      if (!own) return [{ path: ["readings", at, "meter"], message: `there is no meter "${meter}"` }];
      if (!own.inputs.some(({ n }) => n === input))
        return [{ path: ["readings", at, "input"], message: `"${meter}" has no input ${input}` }];
      return [
        ...(isTwice ? [{ path: ["readings", at], message: `input ${input} of "${meter}" stands twice` }] : []),
        ...length(powerW, ["readings", at, "powerW"]),
      ];
    }),
    ...known.flatMap(({ node, powerW }, at): readonly Problem[] => [
      ...(isNode(node) ? [] : [{ path: ["known", at, "node"], message: `there is no device "${node}"` }]),
      ...(known.findIndex((other) => other.node === node) < at
        ? [{ path: ["known", at, "node"], message: `"${node}" stands twice` }]
        : []),
      ...length(powerW, ["known", at, "powerW"]),
    ]),
    ...background.flatMap(({ node }, at): readonly Problem[] =>
      isNode(node) ? [] : [{ path: ["background", at, "node"], message: `there is no load "${node}"` }],
    ),
  ];
}
