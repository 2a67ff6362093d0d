import { z } from "zod";
import { idSchema } from "@/core/names";
import { text } from "@/core/text";

/** A string of modules, from which its voltage follows. */
const stringSchema = z.object({
  device: idSchema,
  name: text().trim().min(1, "give the string a name").max(40, "at most 40 characters"),
  modules: z.int().min(1).max(60),
  /** Open-circuit voltage of one module at 25 °C, V. */
  vocV: z.number().positive().max(200),
});

/** What of a visit cannot be derived from plan and kits. */
export const visitSettingsSchema = z.object({
  technicians: z.int().min(1).max(2).default(1),
  strings: z.array(stringSchema).max(60).default([]),
  /** Set-up by the maker's app, or on the device's own web page. */
  setUpBy: z.enum(["app", "web-page"]).default("app"),
  /** The built-in CT test is run as well, or the flows are only proved by load steps. */
  ctTest: z.enum(["built-in", "load-steps"]).default("load-steps"),
});

export type VisitSettings = z.output<typeof visitSettingsSchema>;
export type PvString = z.output<typeof stringSchema>;
