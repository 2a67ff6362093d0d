import { z } from "zod";
import { given } from "@/core/given";
import { patternIdSchema } from "@/core/job/patternId";
import { refineWith, type Problem } from "@/core/problem";
import {
  conductorSchema,
  heaterSchema,
  nodeKindSchema,
  placeSchema,
  sensingRoleSchema,
  waySchema,
} from "@/core/site/planSchema";
import { idSchema, nameSchema } from "@/core/names";
import { serviceReasonSchema, visitKindSchema } from "@/core/plan/visitSettings";
import { text } from "@/core/text";

const systemSchema = z.enum(["single-phase", "split-phase", "three-phase"]);

/** On which phases: all of the supply, one of them (the technician says which), two legs, or one device on each. */
const patternPhasesSchema = z.enum(["all", "one", "two", "each"]);

const patternNodeSchema = z.strictObject({
  id: idSchema,
  kind: nodeKindSchema.describe("What it is"),
  name: nameSchema,
  fedFrom: idSchema.default("grid").describe("What feeds its circuit"),
  phases: patternPhasesSchema.default("all").describe("The phases that it is on"),
  kit: idSchema.optional().describe("The kit"),
  place: idSchema.optional().describe("Where it is"),
  ratedW: z.number().positive().max(1e8).optional().describe("Rated power, W"),
  fuseA: z.number().positive().max(1e5).optional().describe("Breaker or fuse of its circuit, A"),
  nightW: z.number().min(0).max(1e6).optional().describe("What it draws when nobody does anything, W, all phases"),
  cableMm2: z.number().positive().max(2000).optional().describe("Section of one conductor of its circuit, mm²"),
  cableOuterMm: z.number().positive().max(500).optional().describe("Diameter of one conductor over its insulation, mm"),
  optional: z.boolean().default(false).describe("Can be left out of a site of this pattern"),
  existing: z.boolean().default(false).describe("Stood there before this visit"),
  owner: text().trim().max(80).optional().describe("Whose it is"),
  heater: heaterSchema.strict().optional().describe("What hangs on the outputs of a diverter"),
});

const patternInputSchema = z.strictObject({
  role: sensingRoleSchema.describe("What it is for"),
  of: z.array(idSchema).max(40).optional().describe("Of which devices, where not of all of that kind"),
  runs: z.array(idSchema).min(1).max(12).describe("The circuits that share its window"),
  conductor: z
    .union([z.literal("each"), conductorSchema])
    .default("each")
    .describe("One input for each phase that the circuits have, or this conductor only"),
  clamp: idSchema.optional().describe("The CT that is to be fitted, or what the kit is as one"),
  builtIn: z.boolean().default(false).describe("Measured direct where the main fuse allows it, else by the CT"),
  leadM: z.number().positive().max(1000).optional().describe("Lead, m"),
  leadMm2: z.number().positive().max(50).optional().describe("Section of the lead, mm²"),
});

const patternMeterSchema = z.strictObject({
  id: idSchema,
  name: nameSchema,
  kit: idSchema.describe("The kit"),
  place: idSchema.optional().describe("Where it is"),
  existing: z.boolean().default(false).describe("Stood there before this visit, with its CTs"),
  partOf: idSchema
    .nullable()
    .optional()
    .describe(
      "The device whose own inputs these are, where several of its kit could be meant; null for a unit by itself",
    ),
  inputs: z.array(patternInputSchema).min(1).max(24).describe("The inputs of a meter"),
});

/**
 * A site pattern: a starter plan with its questions. Phases, inputs, taps, arrows, signs and primaries are worked out
 * from the answers and the kits. A field that the format does not know is refused.
 */
export const patternSchema = z
  .strictObject({
    format: z
      .literal("gormit-pattern", 'this is no pattern file: "format" must be "gormit-pattern"')
      .describe("What the file is"),
    version: z.literal(1, "this program reads version 1 of the format").describe("Version of the format"),
    id: patternIdSchema.describe("Identifier"),
    title: nameSchema.describe("What it says"),
    summary: text().trim().min(1).max(500).describe("What it is, in a sentence"),
    visit: z
      .strictObject({
        kind: visitKindSchema.describe("What the technician comes for"),
        reason: serviceReasonSchema.optional().describe("What is wrong, of a service visit"),
      })
      .optional()
      .describe("What the technician comes for, where it is no first installation"),
    watch: z
      .array(text().trim().min(1).max(300))
      .max(8)
      .default([])
      .describe("What to look out for on such a site, a sentence each"),
    supply: z
      .strictObject({
        systems: z.array(systemSchema).min(1).max(3).describe("The supplies that it is for"),
        mainFuseA: z.number().positive().max(1e5).describe("Fuse or breaker of the supply, each phase, A"),
      })
      .describe("The supply of the site, or how something is fed"),
    places: z.array(placeSchema.strict()).min(1).max(20).describe("Rooms, outbuildings, walls"),
    ways: z
      .array(waySchema.strict())
      .max(60)
      .default([])
      .describe("The ways between places, the same in both directions"),
    nodes: z.array(patternNodeSchema).min(1).max(40).describe("Everything on a circuit: supply, boards, devices"),
    meters: z.array(patternMeterSchema).min(1).max(8).describe("The meters, with what each input should measure"),
    equipment: z
      .array(
        z.strictObject({
          id: idSchema,
          name: nameSchema,
          kit: idSchema.describe("The kit"),
          place: idSchema.describe("Where it is"),
          existing: z.boolean().default(false).describe("Stood there before this visit"),
        }),
      )
      .max(20)
      .default([])
      .describe("What stands on no circuit: batteries, gateways, plug-in modules"),
  })
  .superRefine(refineWith(patternProblems));

/** A site pattern: places, devices, meters and what is asked. */
export type Pattern = z.output<typeof patternSchema>;
/** A device of a pattern. */
export type PatternNode = Pattern["nodes"][number];
/** An input of a pattern's meter, by what it is for. */
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
    ...pattern.nodes.flatMap((node, at) =>
      given(
        place(node.place, ["nodes", at, "place"]),
        node.fedFrom === "grid" ? [] : device(node.fedFrom, ["nodes", at, "fedFrom"]),
        pattern.nodes.findIndex((other) => other.id === node.id) < at && {
          path: ["nodes", at, "id"],
          message: `the id "${node.id}" is used twice`,
        },
      ),
    ),
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
