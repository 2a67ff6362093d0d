import { z } from "zod";
import { ratioFormSchema } from "@/core/kits/ratioForm";
import { ctClassSchema, directionSchema, secondarySchema, sensingRoleSchema } from "@/core/site/planSchema";
import { text } from "@/core/text";

/** One metering input as the maker wants it. */
const kitInputSchema = z.strictObject({
  n: z.int().min(1).max(99),
  label: text().trim().min(1).max(40).optional(),
  arrow: directionSchema,
  positive: directionSchema,
  secondary: secondarySchema,
  ratio: ratioFormSchema,
  /** Whether a setting can turn the sign. */
  invertSetting: z.boolean().default(false),
  /** How far a lead may be extended. */
  longestLeadM: z.number().positive().max(1000).optional(),
  /** What the input takes from a current-output CT. */
  inputVa: z.number().min(0).max(100).optional(),
  roles: z.array(sensingRoleSchema).max(6).optional(),
});

export const meteringSchema = z.strictObject({
  /** Accuracy class of the meter itself, % of the power. */
  classPct: z.number().min(0).max(20),
  wiring: z
    .array(z.enum(["1P2W", "1P3W", "3P3W", "3P4W"]))
    .min(1)
    .max(4),
  taps: z.array(text().trim().min(1).max(8)).min(1).max(12),
  inputs: z.array(kitInputSchema).min(1).max(48),
  /** Measures direct, without CTs, up to this current. */
  builtInUpToA: z.number().positive().max(1e5).optional(),
  /** Links between terminals for a supply of fewer phases than it has taps. */
  jumpers: z
    .array(z.strictObject({ when: text().trim().min(1).max(120), link: text().trim().min(1).max(120) }))
    .max(10)
    .default([]),
  /** Values of its own menu, in the order in which they are entered. */
  menu: z
    .array(z.strictObject({ field: text().trim().min(1).max(60), value: text().trim().min(1).max(120) }))
    .max(40)
    .default([]),
  /** A radio transmitter for CTs. */
  transmitter: z
    .strictObject({
      supply: z.enum(["battery", "mains", "self-powered"]),
      /** The current that one of its CTs needs to wake it; self-powered ones only. */
      wakeUpA: z.number().positive().max(1000).optional(),
      rangeM: z.number().positive().max(10_000),
      reportS: z.number().positive().max(3600),
    })
    .refine(({ supply, wakeUpA }) => supply !== "self-powered" || wakeUpA !== undefined, {
      path: ["wakeUpA"],
      message: "a self-powered transmitter needs the current that wakes it",
    })
    .optional(),
});

/** A CT as it is sold: the primaries it comes in, and what goes through its window. */
export const clampKitSchema = z.strictObject({
  class: ctClassSchema,
  primariesA: z.array(z.number().positive().max(1e5)).min(1).max(40),
  secondary: secondarySchema,
  windowMm: z.number().positive().max(1000),
  core: z.enum(["split", "solid", "flexible"]),
  ratedVa: z.number().positive().max(1000).optional(),
  /** The lead that comes on it. */
  leadM: z.number().positive().max(100).optional(),
});
