import { z } from "zod";
import { patternIdSchema } from "@/core/job/patternId";
import { refineWith, type Problem } from "@/core/problem";
import { conductorSchema, nodeKindSchema, placeSchema, sensingRoleSchema, waySchema } from "@/core/site/planSchema";
import { idSchema, nameSchema } from "@/core/names";
import { text } from "@/core/text";

const systemSchema = z.enum(["single-phase", "split-phase", "three-phase"]);

/** On which phases: all of the supply, one of them (the technician says which), two legs, or one device on each. */
const patternPhasesSchema = z.enum(["all", "one", "two", "each"]);

const patternNodeSchema = z.strictObject({
  id: idSchema,
  kind: nodeKindSchema,
  name: nameSchema,
  fedFrom: idSchema.default("grid"),
  phases: patternPhasesSchema.default("all"),
  kit: idSchema.optional(),
  place: idSchema.optional(),
  ratedW: z.number().positive().max(1e8).optional(),
  fuseA: z.number().positive().max(1e5).optional(),
  nightW: z.number().min(0).max(1e6).optional(),
  cableMm2: z.number().positive().max(2000).optional(),
  cableOuterMm: z.number().positive().max(500).optional(),
  /** Can be left out of a site of this pattern. */
  optional: z.boolean().default(false),
  existing: z.boolean().default(false),
  owner: text().trim().max(80).optional(),
});

const patternInputSchema = z.strictObject({
  role: sensingRoleSchema,
  of: z.array(idSchema).max(40).optional(),
  /** The runs that share its window. */
  runs: z.array(idSchema).min(1).max(12),
  /** One input for each phase that the runs have, or this conductor only. */
  conductor: z.union([z.literal("each"), conductorSchema]).default("each"),
  clamp: idSchema.optional(),
  /** Measured direct where the main fuse allows it, else by the clamp. */
  builtIn: z.boolean().default(false),
  leadM: z.number().positive().max(1000).optional(),
  leadMm2: z.number().positive().max(50).optional(),
});

const patternMeterSchema = z.strictObject({
  id: idSchema,
  name: nameSchema,
  kit: idSchema,
  place: idSchema.optional(),
  /** The device whose own inputs these are, where several of its kit could be meant; null for a unit by itself. */
  partOf: idSchema.nullable().optional(),
  inputs: z.array(patternInputSchema).min(1).max(24),
});

/**
 * A site pattern: a starter plan with its questions. Phases, inputs, taps, arrows, signs and primaries are worked out
 * from the answers and the kits. A field that the format does not know is refused.
 */
export const patternSchema = z
  .strictObject({
    format: z.literal("gormit-pattern", 'this is no pattern file: "format" must be "gormit-pattern"'),
    version: z.literal(1, "this program reads version 1 of the format"),
    id: patternIdSchema,
    title: nameSchema,
    summary: text().trim().min(1).max(500),
    /** What to look out for on such a site, a sentence each. */
    watch: z.array(text().trim().min(1).max(300)).max(8).default([]),
    supply: z.strictObject({
      systems: z.array(systemSchema).min(1).max(3),
      mainFuseA: z.number().positive().max(1e5),
    }),
    places: z.array(placeSchema.strict()).min(1).max(20),
    ways: z.array(waySchema.strict()).max(60).default([]),
    nodes: z.array(patternNodeSchema).min(1).max(40),
    meters: z.array(patternMeterSchema).min(1).max(8),
    /** What stands on no run: batteries, gateways, plug-in modules. */
    equipment: z
      .array(
        z.strictObject({
          id: idSchema,
          name: nameSchema,
          kit: idSchema,
          place: idSchema,
          existing: z.boolean().default(false),
        }),
      )
      .max(20)
      .default([]),
  })
  .superRefine(refineWith(patternProblems));

export type Pattern = z.output<typeof patternSchema>;
export type PatternNode = Pattern["nodes"][number];
export type PatternInput = Pattern["meters"][number]["inputs"][number];

function patternProblems(pattern: Pattern): readonly Problem[] {
  const places = new Set(pattern.places.map((place) => place.id));
  const nodes = new Map(pattern.nodes.map((node) => [node.id, node]));
  const place = (id: string | undefined, path: Problem["path"]): readonly Problem[] =>
    id === undefined || places.has(id) ? [] : [{ path, message: `there is no place "${id}"` }];
  const device = (id: string, path: Problem["path"]): readonly Problem[] =>
    nodes.has(id) ? [] : [{ path, message: `there is no device "${id}"` }];
  return [
    ...pattern.ways.flatMap((way, at) => [
      ...place(way.from, ["ways", at, "from"]),
      ...place(way.to, ["ways", at, "to"]),
    ]),
    ...pattern.nodes.flatMap((node, at) => [
      ...place(node.place, ["nodes", at, "place"]),
      ...(node.fedFrom === "grid" ? [] : device(node.fedFrom, ["nodes", at, "fedFrom"])),
      ...(pattern.nodes.findIndex((other) => other.id === node.id) < at
        ? [{ path: ["nodes", at, "id"], message: `the id "${node.id}" is used twice` }]
        : []),
    ]),
    ...pattern.meters.flatMap((meter, at) => [
      ...place(meter.place, ["meters", at, "place"]),
      ...meter.inputs.flatMap((input, which) => [
        ...input.runs.flatMap((run, position) => device(run, ["meters", at, "inputs", which, "runs", position])),
        ...(input.of ?? []).flatMap((id, position) => device(id, ["meters", at, "inputs", which, "of", position])),
      ]),
    ]),
    ...pattern.equipment.flatMap((item, at) => place(item.place, ["equipment", at, "place"])),
  ];
}
