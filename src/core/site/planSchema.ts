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

/** Who owns a device: at most 80 characters. */
export const ownerSchema = text().trim().max(80, "at most 80 characters");
/** A conductor of a run. */
export const conductorSchema = z.enum(["L1", "L2", "L3", "N"]);
/** Toward the load side, or toward the grid. */
export const directionSchema = z.enum(["to-load", "to-grid"]);

/** What stands on a run. */
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
  system: z.enum(["single-phase", "split-phase", "three-phase"]).describe("Single-phase, split-phase or three-phase"),
  voltageV: z.number().min(10).max(100_000).describe("Voltage, V"),
  frequencyHz: z.number().min(10).max(500).default(50).describe("Frequency, Hz"),
  rotation: z.enum(["L1-L2-L3", "L1-L3-L2"]).default("L1-L2-L3").describe("Order of the phases"),
  mainFuseA: z.number().positive().max(1e5).optional().describe("Fuse or breaker of the supply, each phase"),
});

/** How much weather a place lets in. */
export const shelterSchema = z.enum(["indoors", "unheated", "outdoors"]);

/** A room, an outbuilding, a wall: where devices hang and a technician stands. */
export const placeSchema = z.object({
  id: idSchema,
  name: nameSchema,
  shelter: shelterSchema.default("indoors").describe("How much weather it lets in or stands"),
});

/** What belongs to the site and stands on no run: batteries behind an inverter, gateways, plug-in modules. */
const equipmentSchema = z.object({
  id: idSchema,
  name: nameSchema,
  kit: idSchema.optional().describe("The kit"),
  place: idSchema.optional().describe("Where it is"),
  existing: z.boolean().optional().describe("Stood there before this visit"),
});

/** The way between two places, the same in both directions. */
export const waySchema = z.object({
  from: idSchema.describe("Where it begins"),
  to: idSchema.describe("Where it ends"),
  walkMin: z.number().min(0).max(600).describe("Time to walk, min"),
  cableM: z
    .number()
    .positive()
    .max(10_000)
    .optional()
    .describe("Along the route that a cable takes; left out where no cable can be laid"),
  straightM: z.number().positive().max(10_000).optional().describe("In a straight line, for a radio"),
});

/** A heater circuit on a diverter: which element hangs on which output, and whether it was there before. */
export const heaterSchema = z.object({
  isTakenOver: z.boolean().optional().describe("The circuit stood there, and is cut for the diverter"),
  elements: z
    .array(
      z.object({
        output: idSchema.describe("The output of the diverter, a port of its kit"),
        name: nameSchema.describe("Which element it is"),
        ratedW: z.number().positive().max(1e6).describe("Rated power, W"),
      }),
    )
    .max(6)
    .default([])
    .describe("The elements, each on its output"),
});

const nodeSchema = z.object({
  id: idSchema,
  kind: nodeKindSchema.describe("What it is"),
  name: nameSchema,
  fedFrom: idSchema.optional().describe("What feeds its circuit"),
  phases: z.array(phaseSchema).min(1, "name at least one phase").max(3).optional().describe("The phases that it is on"),
  ratedW: z.number().positive().max(1e9).optional().describe("Rated power, W"),
  kit: idSchema.optional().describe("The kit"),
  place: idSchema.optional().describe("Where it is"),
  fuseA: z.number().positive().max(1e5).optional().describe("Breaker or fuse of the circuit of this node"),
  /** Stood there before this visit; whoever owns it is named in `owner`. */
  existing: z.boolean().optional().describe("Stood there before this visit"),
  owner: ownerSchema.optional().describe("Whose it is"),
  nightW: z
    .number()
    .min(0)
    .max(1e9)
    .optional()
    .describe("What a load draws, all phases together, when nobody is doing anything"),
  cableMm2: z
    .number()
    .positive()
    .max(2000)
    .optional()
    .describe("One conductor of the circuit: section, and diameter over its insulation"),
  cableOuterMm: z.number().positive().max(500).optional().describe("Diameter of one conductor over its insulation, mm"),
  heater: heaterSchema.optional().describe("What hangs on the outputs of a diverter"),
});

/** One conductor in a CT's window. */
export const windowEntrySchema = z.object({
  run: idSchema.describe("The circuit, by what it feeds"),
  conductor: conductorSchema.describe("The conductor"),
});

/** What a CT gives at its primary: V, mV, A or mA. */
export const secondarySchema = z.object({
  value: z.number().positive().max(1e4).describe("The value"),
  unit: z.enum(["V", "mV", "A", "mA"]).describe("Unit of the value"),
});

/** What a sum of inputs is for. */
export const sensingRoleSchema = z.enum(["grid", "generation", "battery", "consumption", "heater", "vehicle"]);
/** Accuracy class of a CT (IEC 61869-2). */
export const ctClassSchema = z.enum(["0.2", "0.5", "1", "3", "0.2S", "0.5S"]);

/** The CT that is to be fitted on an input, as far as it matters beyond its ratio. */
export const clampChoiceSchema = z.object({
  kit: idSchema.optional().describe("The kit"),
  class: ctClassSchema.optional().describe("Accuracy class (IEC 61869-2)"),
  windowMm: z.number().positive().max(1000).optional().describe("Window, mm"),
  ratedVa: z.number().positive().max(1000).optional().describe("Rated burden, VA"),
  leadM: z.number().positive().max(1000).optional().describe("Lead, m"),
  leadMm2: z.number().positive().max(50).optional().describe("Section of the lead, mm²"),
  turns: z.int().min(1).max(100).optional().describe("How often the conductor goes through"),
});

const inputSchema = z.object({
  n: z.int().min(1).max(99).describe("Number of the input, from 1"),
  measures: z
    .array(windowEntrySchema)
    .min(1, "say which circuit and conductor this input measures")
    .max(MAX_WINDOW_ENTRIES)
    .describe("The conductors through its window"),
  tap: text().trim().min(1).max(8).describe("The voltage tap that it is multiplied with"),
  arrow: directionSchema.describe("Which way the printed arrow points"),
  positive: directionSchema.describe("Which flow is shown as positive"),
  primaryA: z.number().positive().max(1e5).describe("Primary of the CT, A"),
  secondary: secondarySchema.describe("What the CT gives at its primary"),
  invert: z.boolean().default(false).describe("Its sign is turned by a setting"),
  role: sensingRoleSchema
    .optional()
    .describe("What the sum on this input is for, and of which devices where not of all of that kind"),
  of: z.array(idSchema).max(MAX_NODES).optional().describe("Of which devices, where not of all of that kind"),
  builtIn: z.boolean().optional().describe("Measured inside the meter, without a CT"),
  clamp: clampChoiceSchema.optional().describe("The CT that is to be fitted, or what the kit is as one"),
});

const meterSchema = z.object({
  id: idSchema,
  name: nameSchema,
  taps: boundedRecord(text().min(1).max(8), phaseSchema, MAX_TAPS).describe("Voltage taps, each with its phase"),
  inputs: z
    .array(inputSchema)
    .min(1, "a meter has at least one input")
    .max(MAX_INPUTS)
    .describe("The inputs of a meter"),
  kit: idSchema.optional().describe("The kit"),
  place: idSchema.optional().describe("Where it is"),
  existing: z.boolean().optional().describe("Stood there before this visit, with its CTs"),
  classPct: z.number().min(0).max(20).optional().describe("Accuracy class of the meter, %"),
  partOf: idSchema
    .nullable()
    .optional()
    .describe("The device whose own inputs these are; null for a unit by itself; left out while nobody said"),
});

const ctSchema = z.object({
  id: idSchema,
  around: z.array(windowEntrySchema).max(MAX_WINDOW_ENTRIES).describe("The conductors that it is round"),
  arrow: directionSchema.describe("Which way the printed arrow points"),
  turns: z.int().min(1).max(100).default(1).describe("How often the conductor goes through"),
  primaryA: z.number().positive().max(1e5).describe("Primary of the CT, A"),
  secondary: secondarySchema.describe("What the CT gives at its primary"),
  leads: z.enum(["straight", "swapped"]).default("straight").describe("Whether its leads are straight or swapped"),
  plug: z
    .object({ meter: idSchema.describe("The meter"), input: z.int().min(1).max(99).describe("The input") })
    .nullable()
    .default(null)
    .describe("The input that it is plugged into"),
  changedAt: z.iso.datetime().optional().describe("When it was changed last; what was read before is read again"),
});

/** The shape of a plan; `siteSchema` adds the checks that ids, phases, taps and plugs fit each other. */
export const siteShape = z.object({
  supply: supplySchema.describe("The supply of the site, or how something is fed"),
  nodes: z.array(nodeSchema).min(1).max(MAX_NODES).describe("Everything on a circuit: supply, boards, devices"),
  meters: z.array(meterSchema).max(MAX_METERS).default([]).describe("The meters, with what each input should measure"),
  cts: z.array(ctSchema).max(MAX_CTS).default([]).describe("The CTs as they are fitted"),
  places: z.array(placeSchema).max(MAX_PLACES).default([]).describe("Rooms, outbuildings, walls"),
  ways: z.array(waySchema).max(MAX_WAYS).default([]).describe("The ways between places, the same in both directions"),
  equipment: z
    .array(equipmentSchema)
    .max(MAX_NODES)
    .default([])
    .describe("What stands on no circuit: batteries, gateways, modules"),
});

/** A site: supply, devices, meters, CTs as fitted, places and ways. */
export type Site = z.output<typeof siteShape>;
/** The supply: system, V, Hz, rotation, main fuse in A. */
export type Supply = Site["supply"];
/** A device, a board or the supply, with the run that feeds it. */
export type SiteNode = Site["nodes"][number];
/** What stands on a run. */
export type NodeKind = SiteNode["kind"];
/** A meter with its taps and inputs. */
export type Meter = Site["meters"][number];
/** One input: what it should measure and how it is set; A and V. */
export type MeterInput = Meter["inputs"][number];
/** A CT as it is fitted. */
export type Ct = Site["cts"][number];
/** One conductor in a CT's window. */
export type WindowEntry = z.output<typeof windowEntrySchema>;
/** What a CT gives at its primary. */
export type Secondary = z.output<typeof secondarySchema>;
/** What a sum of inputs is for. */
export type SensingRole = z.output<typeof sensingRoleSchema>;
/** Accuracy class of a CT. */
export type CtClass = z.output<typeof ctClassSchema>;
/** The CT that is to be fitted on an input; mm, VA, m, mm². */
export type PlannedClamp = z.output<typeof clampChoiceSchema>;
/** A room, an outbuilding, a wall. */
export type Place = z.output<typeof placeSchema>;
/** What stands on no run. */
export type Equipment = Site["equipment"][number];
/** The way between two places; min and m. */
export type Way = z.output<typeof waySchema>;
/** How much weather a place lets in. */
export type Shelter = z.output<typeof shelterSchema>;
/** A conductor of a run. */
export type Conductor = z.output<typeof conductorSchema>;
/** Toward the load side, or toward the grid. */
export type Direction = z.output<typeof directionSchema>;
