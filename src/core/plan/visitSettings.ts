import { z } from "zod";
import { PRACTICE_OPTIONS } from "@/core/kits/practiceSchema";
import { idSchema } from "@/core/names";
import { text } from "@/core/text";

/** A string of modules, from which its voltage follows. */
const stringSchema = z.object({
  id: idSchema.optional().describe("Tells it from the others while it is changed"),
  device: idSchema.describe("The device"),
  name: text().trim().min(1, "give the string a name").max(40, "at most 40 characters").describe("Its name"),
  modules: z.int().min(1).max(60).describe("Modules in the string"),
  vocV: z.number().positive().max(200).describe("Open-circuit voltage of one module at 25 °C, V"),
});

/** The id of the visit that a job begins with. */
export const FIRST_VISIT = "first";

/** What a technician comes for. */
export const visitKindSchema = z.enum([
  "first-installation",
  "device-added",
  "exchange",
  "service",
  "extension",
  "inspection",
]);

/** What is wrong where a technician comes for service. */
export const serviceReasonSchema = z.enum(["reading-wrong", "not-online", "router-changed"]);

/** Which visit of a job it is; every entry of the log carries the id. */
export const visitMarkShape = {
  id: idSchema.default(FIRST_VISIT).describe("Which visit of the job this is"),
  kind: visitKindSchema.default("first-installation").describe("What the technician comes for"),
  reason: serviceReasonSchema.optional().describe("What is wrong, of a service visit"),
};

const asKits = <const T extends readonly string[]>(options: T) => z.enum(["kit", ...options]);

/** Where practitioners disagree: which method is followed; "kit" is as each kit says. */
export const schoolChoices = {
  setUpBy: z.enum(["app", "web-page"]).describe("Set-up by the maker's app, or on the device's own web page"),
  ctTest: z
    .enum(["built-in", "load-steps"])
    .describe("The built-in CT test is run as well, or the flows are only proved by load steps"),
  energise: asKits(PRACTICE_OPTIONS.energise).describe("The backup side proved alone first, or the grid first"),
  configureWhen: asKits(PRACTICE_OPTIONS.configureWhen).describe("Settings before AC is closed, or after"),
  moduleWhen: asKits(PRACTICE_OPTIONS.moduleWhen).describe("Communication modules seated before power, or after"),
  firmwareWhen: asKits(PRACTICE_OPTIONS.firmwareWhen).describe("Firmware early, or at the end"),
  pairingAt: asKits(PRACTICE_OPTIONS.pairingAt).describe("Pairing is opened at the hub, or at the follower"),
  isolateWhen: z
    .enum(["fix-first", "isolate-first"])
    .describe("The house stays lit while things are fixed, or all is off before anything is drilled"),
  ctLeads: z
    .enum(["leads-first", "clamp-first"])
    .describe("Leads into the meter before the CT closes, or clamped dead, cut to length, then terminated"),
  spareCores: z.enum(["folded", "cut"]).describe("Spare cores folded back and sleeved, or cut flush"),
};

const schoolShape = {
  setUpBy: schoolChoices.setUpBy.default("app"),
  ctTest: schoolChoices.ctTest.default("load-steps"),
  energise: schoolChoices.energise.default("kit"),
  configureWhen: schoolChoices.configureWhen.default("kit"),
  moduleWhen: schoolChoices.moduleWhen.default("kit"),
  firmwareWhen: schoolChoices.firmwareWhen.default("kit"),
  pairingAt: schoolChoices.pairingAt.default("kit"),
  isolateWhen: schoolChoices.isolateWhen.default("fix-first"),
  ctLeads: schoolChoices.ctLeads.default("leads-first"),
  spareCores: schoolChoices.spareCores.default("folded"),
};

/** Tests that an installer owes on such work. */
export const OWED_TESTS = [
  "insulation",
  "loop",
  "residual-current",
  "rotation",
  "loss-of-mains",
  "changeover",
] as const;
/** One of them. */
export type OwedTest = (typeof OWED_TESTS)[number];

/** What of a visit cannot be derived from plan and kits. */
export const visitSettingsSchema = z.object({
  ...visitMarkShape,
  earlier: z
    .array(z.object({ ...visitMarkShape, endedAt: z.iso.datetime().describe("When the next one was begun") }))
    .max(200)
    .default([])
    .describe("The visits before this one; their entries stay in the log"),
  technicians: z.int().min(1).max(2).default(1).describe("How many technicians"),
  strings: z.array(stringSchema).max(60).default([]).describe("The strings of modules"),
  owedTests: z
    .array(z.enum(OWED_TESTS))
    .max(OWED_TESTS.length)
    .default([...OWED_TESTS])
    .describe("Which tests are asked for"),
  owedTestsSource: text().trim().max(200, "at most 200 characters").default("").describe("Which rule asks for them"),
  ...schoolShape,
});

/** What is said of the visit beside the plan. */
export type VisitSettings = z.output<typeof visitSettingsSchema>;
/** A string of modules. */
export type PvString = z.output<typeof stringSchema>;
/** What a technician comes for. */
export type VisitKind = z.output<typeof visitKindSchema>;
/** What is wrong, of a service visit. */
export type ServiceReason = z.output<typeof serviceReasonSchema>;
