import { z } from "zod";
import { boundedRecord } from "@/core/boundedRecord";
import { idSchema, nameSchema } from "@/core/names";
import { phaseSchema } from "@/core/phase";
import { text } from "@/core/text";

/** Largest list sizes that a request or file may carry; far above any real site, low enough to stay fast. */
const MAX_NODES = 200;
const MAX_METERS = 24;
const MAX_INPUTS = 48;
const MAX_CTS = 200;
const MAX_WINDOW_ENTRIES = 12;
const MAX_TAPS = 24;
const MAX_PLACES = 40;
const MAX_WAYS = 200;

export const ownerSchema = text().trim().max(80, "at most 80 characters");
export const conductorSchema = z.enum(["L1", "L2", "L3", "N"]);
export const directionSchema = z.enum(["to-load", "to-grid"]);

export const nodeKindSchema = z.enum([
  "grid",
  "board",
  "load",
  "test-load",
  "pv-inverter",
  "battery-inverter",
  "hybrid-inverter",
  "diverter",
  "ev-charger",
  "heat-pump",
  "generator",
]);

const supplySchema = z.object({
  system: z.enum(["single-phase", "split-phase", "three-phase"]),
  voltageV: z.number().min(10).max(100_000),
  frequencyHz: z.number().min(10).max(500).default(50),
  rotation: z.enum(["L1-L2-L3", "L1-L3-L2"]).default("L1-L2-L3"),
  /** Fuse or breaker of the supply, each phase. */
  mainFuseA: z.number().positive().max(1e5).optional(),
});

export const shelterSchema = z.enum(["indoors", "unheated", "outdoors"]);

/** A room, an outbuilding, a wall: where devices hang and a technician stands. */
export const placeSchema = z.object({ id: idSchema, name: nameSchema, shelter: shelterSchema.default("indoors") });

/** What belongs to the site and stands on no run: batteries behind an inverter, gateways, plug-in modules. */
const equipmentSchema = z.object({
  id: idSchema,
  name: nameSchema,
  kit: idSchema.optional(),
  place: idSchema.optional(),
  existing: z.boolean().optional(),
});

/** The way between two places, the same in both directions. */
export const waySchema = z.object({
  from: idSchema,
  to: idSchema,
  walkMin: z.number().min(0).max(600),
  /** Along the route that a cable takes; left out where no cable can be laid. */
  cableM: z.number().positive().max(10_000).optional(),
  /** In a straight line, for a radio. */
  straightM: z.number().positive().max(10_000).optional(),
});

const nodeSchema = z.object({
  id: idSchema,
  kind: nodeKindSchema,
  name: nameSchema,
  fedFrom: idSchema.optional(),
  phases: z.array(phaseSchema).min(1, "name at least one phase").max(3).optional(),
  ratedW: z.number().positive().max(1e9).optional(),
  kit: idSchema.optional(),
  place: idSchema.optional(),
  /** Breaker or fuse of the run to this node. */
  fuseA: z.number().positive().max(1e5).optional(),
  /** Stood there before this visit; whoever owns it is named in `owner`. */
  existing: z.boolean().optional(),
  owner: ownerSchema.optional(),
  /** What a load draws, all phases together, when nobody is doing anything. */
  nightW: z.number().min(0).max(1e9).optional(),
  /** One conductor of the run: section, and diameter over its insulation. */
  cableMm2: z.number().positive().max(2000).optional(),
  cableOuterMm: z.number().positive().max(500).optional(),
});

export const windowEntrySchema = z.object({ run: idSchema, conductor: conductorSchema });

export const secondarySchema = z.object({
  value: z.number().positive().max(1e4),
  unit: z.enum(["V", "mV", "A", "mA"]),
});

export const sensingRoleSchema = z.enum(["grid", "generation", "battery", "consumption", "heater", "vehicle"]);
export const ctClassSchema = z.enum(["0.2", "0.5", "1", "3", "0.2S", "0.5S"]);

/** The CT that is to be fitted on an input, as far as it matters beyond its ratio. */
export const clampChoiceSchema = z.object({
  kit: idSchema.optional(),
  class: ctClassSchema.optional(),
  windowMm: z.number().positive().max(1000).optional(),
  ratedVa: z.number().positive().max(1000).optional(),
  leadM: z.number().positive().max(1000).optional(),
  leadMm2: z.number().positive().max(50).optional(),
  turns: z.int().min(1).max(100).optional(),
});

const inputSchema = z.object({
  n: z.int().min(1).max(99),
  measures: z
    .array(windowEntrySchema)
    .min(1, "say which run and conductor this input measures")
    .max(MAX_WINDOW_ENTRIES),
  tap: text().trim().min(1).max(8),
  arrow: directionSchema,
  positive: directionSchema,
  primaryA: z.number().positive().max(1e5),
  secondary: secondarySchema,
  invert: z.boolean().default(false),
  /** What the sum on this input is for, and of which devices where not of all of that kind. */
  role: sensingRoleSchema.optional(),
  of: z.array(idSchema).max(MAX_NODES).optional(),
  /** Measured inside the meter, without a CT. */
  builtIn: z.boolean().optional(),
  clamp: clampChoiceSchema.optional(),
});

const meterSchema = z.object({
  id: idSchema,
  name: nameSchema,
  taps: boundedRecord(text().min(1).max(8), phaseSchema, MAX_TAPS),
  inputs: z.array(inputSchema).min(1, "a meter has at least one input").max(MAX_INPUTS),
  kit: idSchema.optional(),
  place: idSchema.optional(),
  classPct: z.number().min(0).max(20).optional(),
  /** The device whose own inputs these are; null for a unit by itself; left out while nobody said. */
  partOf: idSchema.nullable().optional(),
});

const ctSchema = z.object({
  id: idSchema,
  around: z.array(windowEntrySchema).max(MAX_WINDOW_ENTRIES),
  arrow: directionSchema,
  turns: z.int().min(1).max(100).default(1),
  primaryA: z.number().positive().max(1e5),
  secondary: secondarySchema,
  leads: z.enum(["straight", "swapped"]).default("straight"),
  plug: z
    .object({ meter: idSchema, input: z.int().min(1).max(99) })
    .nullable()
    .default(null),
});

/** The shape of a plan; `siteSchema` adds the checks that ids, phases, taps and plugs fit each other. */
export const siteShape = z.object({
  supply: supplySchema,
  nodes: z.array(nodeSchema).min(1).max(MAX_NODES),
  meters: z.array(meterSchema).max(MAX_METERS).default([]),
  cts: z.array(ctSchema).max(MAX_CTS).default([]),
  places: z.array(placeSchema).max(MAX_PLACES).default([]),
  ways: z.array(waySchema).max(MAX_WAYS).default([]),
  equipment: z.array(equipmentSchema).max(MAX_NODES).default([]),
});

export type Site = z.output<typeof siteShape>;
export type Supply = Site["supply"];
export type SiteNode = Site["nodes"][number];
export type NodeKind = SiteNode["kind"];
export type Meter = Site["meters"][number];
export type MeterInput = Meter["inputs"][number];
export type Ct = Site["cts"][number];
export type WindowEntry = z.output<typeof windowEntrySchema>;
export type Secondary = z.output<typeof secondarySchema>;
export type SensingRole = z.output<typeof sensingRoleSchema>;
export type CtClass = z.output<typeof ctClassSchema>;
export type PlannedClamp = z.output<typeof clampChoiceSchema>;
export type Place = z.output<typeof placeSchema>;
export type Equipment = Site["equipment"][number];
export type Way = z.output<typeof waySchema>;
export type Shelter = z.output<typeof shelterSchema>;
export type Conductor = z.output<typeof conductorSchema>;
export type Direction = z.output<typeof directionSchema>;
