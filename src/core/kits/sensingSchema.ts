import { z } from "zod";
import { ratioFormSchema } from "@/core/kits/ratioForm";
import { ctClassSchema, directionSchema, secondarySchema, sensingRoleSchema } from "@/core/site/planSchema";
import { text } from "@/core/text";

/** One metering input as the maker wants it. */
const kitInputSchema = z.strictObject({
  n: z.int().min(1).max(99).describe("Number of the input, from 1"),
  label: text().trim().min(1).max(40).optional().describe("What it is called"),
  arrow: directionSchema.describe("Which way the printed arrow points"),
  positive: directionSchema.describe("Which flow is shown as positive"),
  secondary: secondarySchema.describe("What the CT gives at its primary"),
  ratio: ratioFormSchema.describe("In which form it takes a CT's ratio"),
  invertSetting: z.boolean().default(false).describe("Whether a setting can turn the sign"),
  longestLeadM: z.number().positive().max(1000).optional().describe("How far a lead may be extended"),
  inputVa: z.number().min(0).max(100).optional().describe("What the input takes from a current-output CT"),
  roles: z.array(sensingRoleSchema).max(6).optional().describe("What the input can be for"),
});

/** How a device measures: its inputs, class in %, taps, settings. */
export const meteringSchema = z.strictObject({
  classPct: z.number().min(0).max(20).describe("Accuracy class of the meter itself, % of the power"),
  wiring: z
    .array(z.enum(["1P2W", "1P3W", "3P3W", "3P4W"]))
    .min(1)
    .max(4)
    .describe("How it is joined to the phases"),
  taps: z.array(text().trim().min(1).max(8)).min(1).max(12).describe("Voltage taps, each with its phase"),
  inputs: z.array(kitInputSchema).min(1).max(48).describe("The inputs of a meter"),
  builtInUpToA: z.number().positive().max(1e5).optional().describe("Measures direct, without CTs, up to this current"),
  jumpers: z
    .array(
      z.strictObject({
        when: text().trim().min(1).max(120).describe("When it is set so"),
        link: text().trim().min(1).max(120).describe("Which link, or the link that it is of"),
      }),
    )
    .max(10)
    .default([])
    .describe("Links between terminals for a supply of fewer phases than it has taps"),
  menu: z
    .array(
      z.strictObject({
        field: text().trim().min(1).max(60).describe("The entry"),
        value: text().trim().min(1).max(120).describe("The value"),
      }),
    )
    .max(40)
    .default([])
    .describe("Values of its own menu, in the order in which they are entered"),
  transmitter: z
    .strictObject({
      supply: z.enum(["battery", "mains", "self-powered"]).describe("The supply of the site, or how something is fed"),
      wakeUpA: z
        .number()
        .positive()
        .max(1000)
        .optional()
        .describe("The current that one of its CTs needs to wake it; self-powered ones only"),
      rangeM: z.number().positive().max(10_000).describe("How far it reaches, m"),
      reportS: z.number().positive().max(3600).describe("Every so many seconds"),
    })
    .refine(({ supply, wakeUpA }) => supply !== "self-powered" || wakeUpA !== undefined, {
      path: ["wakeUpA"],
      message: "a self-powered transmitter needs the current that wakes it",
    })
    .optional()
    .describe("A radio transmitter for CTs"),
});

/** A CT as it is sold: the primaries it comes in, and what goes through its window. */
export const clampKitSchema = z.strictObject({
  class: ctClassSchema.describe("Accuracy class (IEC 61869-2)"),
  primariesA: z.array(z.number().positive().max(1e5)).min(1).max(40).describe("The primaries that it comes in, A"),
  secondary: secondarySchema.describe("What the CT gives at its primary"),
  windowMm: z.number().positive().max(1000).describe("Window, mm"),
  core: z.enum(["split", "solid", "flexible"]).describe("Whether its core opens"),
  ratedVa: z.number().positive().max(1000).optional().describe("Rated burden, VA"),
  leadM: z.number().positive().max(100).optional().describe("The lead that comes on it"),
  lead: z
    .strictObject({
      plus: text().trim().min(1).max(30).describe("Colour or mark of the core that is +"),
      minus: text().trim().min(1).max(30).describe("Colour or mark of the other core"),
      mayShorten: z.boolean().describe("Whether the lead may be cut to length"),
    })
    .optional()
    .describe("The cores of its lead"),
});
