import { z } from "zod";
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
  setUpBy: z
    .enum(["app", "web-page"])
    .default("app")
    .describe("Set-up by the maker's app, or on the device's own web page"),
  ctTest: z
    .enum(["built-in", "load-steps"])
    .default("load-steps")
    .describe("The built-in CT test is run as well, or the flows are only proved by load steps"),
});

/** What is said of the visit beside the plan. */
export type VisitSettings = z.output<typeof visitSettingsSchema>;
/** A string of modules. */
export type PvString = z.output<typeof stringSchema>;
/** What a technician comes for. */
export type VisitKind = z.output<typeof visitKindSchema>;
/** What is wrong, of a service visit. */
export type ServiceReason = z.output<typeof serviceReasonSchema>;
