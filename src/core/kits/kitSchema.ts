import { z } from "zod";
import { boundedRecord } from "@/core/boundedRecord";
import { given } from "@/core/given";
import { canSchema, kitNetworkSchema, portSchema, radioSchema, kitSerialSchema } from "@/core/kits/portSchema";
import {
  environmentSchema,
  exportLimitSchema,
  lampSchema,
  powerUpSchema,
  timersSchema,
  topologyRuleSchema,
} from "@/core/kits/behaviourSchema";
import { kitRegistrationsSchema } from "@/core/kits/registrationKitSchema";
import { kitOnlineSchema } from "@/core/kits/onlineKitSchema";
import { menuSchema } from "@/core/kits/menuSchema";
import { practiceSchema } from "@/core/kits/practiceSchema";
import { clampKitSchema, meteringSchema } from "@/core/kits/sensingSchema";
import { registerProblems, registerSchema } from "@/core/kits/registerSchema";
import { refineWith, type Problem } from "@/core/problem";
import { idSchema, nameSchema } from "@/core/names";
import { text } from "@/core/text";

/** What a kit is. The first of them stand in the plan as devices, the rest measure, carry or control. */
export const kitKindSchema = z.enum([
  "pv-inverter",
  "battery-inverter",
  "hybrid-inverter",
  "diverter",
  "ev-charger",
  "heat-pump",
  "generator",
  "meter",
  "energy-manager",
  "transmitter",
  "ct",
  "battery",
  "backup-box",
  "gateway",
  "dongle",
  "radio-pair",
  "logger",
  "monitor",
  "export-controller",
  "router",
  "adapter",
  "receiver",
  "switch",
]);

/** The batteries that an inverter takes. */
const storageSchema = z
  .strictObject({
    minV: z.number().positive().max(2000).describe("Lowest battery voltage, V"),
    maxV: z.number().positive().max(2000).describe("Highest battery voltage, V"),
    kits: z
      .array(idSchema)
      .max(60)
      .optional()
      .describe("Kits of the batteries that its menu knows; any where left out"),
  })
  .refine(({ minV, maxV }) => minV <= maxV, { path: ["maxV"], message: "maxV is below minV" });

const ratingsSchema = z
  .strictObject({
    powerW: z.number().positive().max(1e8).optional().describe("Continuous AC power"),
    surgeW: z.number().positive().max(1e8).optional().describe("For the kinds that have a backup output: for seconds"),
    currentA: z.number().positive().max(1e5).optional().describe("Of the current through it, each phase"),
    phases: z.array(z.int().min(1).max(3)).min(1).max(3).optional().describe("How many phases it can be wired to"),
    voltageV: z.number().positive().max(2000).optional().describe("Voltage, V"),
    storageKwh: z.number().positive().max(1e5).optional().describe("What it stores, kWh"),
    unitsMax: z.int().min(1).max(100).optional().describe("How many of them can be joined"),
  })
  .default({});

/**
 * A kit file: all that is known of one type of device. One device a file, YAML. A field that the format does
 * not know is refused. Values are the installer's to check against the maker's manual; `sources` says per value
 * where it came from, `source` for all others.
 */
export const kitSchema = z
  .strictObject({
    format: z.literal("gormit-kit", 'this is no kit file: "format" must be "gormit-kit"').describe("What the file is"),
    version: z.literal(1, "this program reads version 1 of the format").describe("Version of the format"),
    id: idSchema.regex(/^[a-z0-9][a-z0-9-]*$/, "small letters, digits and hyphens").describe("Identifier"),
    kind: kitKindSchema.describe("What it is"),
    name: nameSchema,
    summary: text()
      .trim()
      .min(1, "say in a sentence what it is")
      .max(400, "at most 400 characters")
      .describe("What it is, in a sentence"),
    source: text()
      .trim()
      .min(1, "say where the values come from")
      .max(300, "at most 300 characters")
      .describe("Where it comes from"),
    sources: boundedRecord(text().max(200), text().trim().min(1).max(300), 300)
      .default({})
      .describe("Where the values come from"),
    serialPattern: text()
      .max(200)
      .refine(isPattern, "this is no regular expression")
      .optional()
      .describe("What a serial number of it looks like, as a regular expression"),
    ratings: ratingsSchema.describe("What it is rated for"),
    storage: storageSchema.optional().describe("The batteries that it takes"),
    metering: meteringSchema.optional().describe("How it measures"),
    clamp: clampKitSchema.optional().describe("The CT that is to be fitted, or what the kit is as one"),
    ports: z.array(portSchema).max(40).default([]).describe("Its ports"),
    serial: kitSerialSchema.optional().describe("Its serial line"),
    registers: z.array(registerSchema).max(400).default([]).describe("Its registers"),
    can: canSchema.optional().describe("Its CAN port"),
    network: kitNetworkSchema.optional().describe("The network, or what it can do in one"),
    online: kitOnlineSchema.optional().describe("How it comes online, and how it is reached to be set up"),
    registrations: kitRegistrationsSchema.default([]).describe("What is registered of it, by whom, and until when"),
    radio: radioSchema.optional().describe("Its sub-GHz radio, or the settings of a radio link"),
    lamps: z.array(lampSchema).max(60).default([]).describe("Its lamps"),
    bypass: z
      .strictObject({
        surplus: text().trim().min(1).max(20).describe("Its position for surplus"),
        direct: text().trim().min(1).max(20).describe("Its position straight from the supply"),
      })
      .optional()
      .describe("The switch that takes a diverter out of its heater circuit"),
    menu: menuSchema.describe("The entries of its own menu"),
    powerUp: z.array(powerUpSchema).max(20).default([]).describe("What comes before what when it is powered"),
    practice: practiceSchema.describe("How its maker wants it done, where makers differ"),
    timers: timersSchema.describe("How long it takes by itself"),
    environment: environmentSchema.describe("What it stands"),
    exportLimit: exportLimitSchema.optional().describe("How it holds an export limit"),
    topology: z.array(topologyRuleSchema).max(20).default([]).describe("How it may be joined"),
  })
  .superRefine(refineWith(kitProblems));

/** What is known of a type of device. */
export type Kit = z.output<typeof kitSchema>;
/** What a type of device is. */
export type KitKind = Kit["kind"];

function kitProblems(kit: Kit): readonly Problem[] {
  return given(
    repeated(
      kit.ports.map((port) => port.id),
      (at) => ["ports", at, "id"],
      "port",
    ),
    repeated(
      (kit.metering?.inputs ?? []).map((input) => String(input.n)),
      (at) => ["metering", "inputs", at, "n"],
      "input",
    ),
    kit.kind === "ct" &&
      !kit.clamp && { path: ["clamp"], message: "a CT needs its class, primaries, secondary and window" },
    ["meter", "transmitter", "energy-manager"].includes(kit.kind) &&
      !kit.metering && { path: ["metering"], message: `a ${kit.kind} needs its metering inputs` },
    unknownSources(kit),
    registerProblems(
      kit.registers,
      (kit.metering?.inputs ?? []).map(({ n }) => n),
    ).map(({ path, message }) => ({ path: ["registers", ...path], message })),
  );
}

function repeated(
  ids: readonly string[],
  pathOf: (at: number) => readonly (string | number)[],
  what: string,
): readonly Problem[] {
  return ids.flatMap((id, at) =>
    ids.indexOf(id) < at ? [{ path: pathOf(at), message: `the ${what} ${id} stands twice` }] : [],
  );
}

/** A source that names a value which the kit does not have would look like knowledge and be none. */
function unknownSources(kit: Kit): readonly Problem[] {
  return Object.keys(kit.sources).flatMap((path): readonly Problem[] => {
    const [head] = path.split(".");
    const isKnown = head !== undefined && Object.hasOwn(kit, head) && kit[head as keyof Kit] !== undefined;
    return isKnown ? [] : [{ path: ["sources", path], message: `this kit has no value "${path}"` }];
  });
}

function isPattern(text: string): boolean {
  try {
    new RegExp(text);
    return true;
  } catch {
    return false;
  }
}
