import { z } from "zod";
import { RUNG_IDS } from "@/core/online/rungs";
import { text } from "@/core/text";

const textSchema = text().trim().min(1).max(300);
const secondsSchema = z.number().positive().max(86_400).optional();

/** When a lamp is looked at: just powered, joined to the grid, pairing, and online. */
export const LAMP_MOMENTS = ["power", "joined", "paired", "online"] as const;

const lampWordSchema = z.enum(["good", "wait", "bad"]);

/** A lamp of a device: colour, pattern, what it means, and whether that is good where it is looked at. */
export const lampSchema = z.strictObject({
  lamp: text().trim().min(1).max(40).describe("Which lamp"),
  colour: text().trim().min(1).max(20).describe("Its colour"),
  pattern: z
    .enum(["off", "steady", "slow-blink", "fast-blink", "double-blink", "counted-blink", "alternating"])
    .describe("Its rhythm"),
  blinks: z.int().min(1).max(20).optional().describe("Blinks in a group, where they are counted"),
  means: textSchema.describe("What it means"),
  rung: z
    .enum(RUNG_IDS)
    .optional()
    .describe("The rung of the chain to the owner that it tells of: good is reached, bad is not"),
  says: lampWordSchema.optional().describe("Good, to be waited for, or bad; what is not named is unknown"),
  at: z
    .partialRecord(z.enum(LAMP_MOMENTS), lampWordSchema)
    .optional()
    .describe("Where that is otherwise at a moment: power, joined, paired, online"),
  waitMin: z.number().positive().max(600).optional().describe("How long it may show that at most, min"),
  next: textSchema.optional().describe("What to do about it"),
});

const sourceSchema = z.enum(["battery", "dc", "ac", "meter", "network", "this"]);

/** One constraint on the order of switching on, with the reason. */
export const powerUpSchema = z
  .strictObject({
    first: sourceSchema.describe("What comes first"),
    then: sourceSchema.describe("What comes after it"),
    why: textSchema.describe("Why"),
  })
  .refine(({ first, then }) => first !== then, { path: ["then"], message: "the two are the same" });

/** How long a device takes by itself, s. */
export const timersSchema = z
  .strictObject({
    bootS: secondsSchema.describe("To start, s"),
    pairingWindowS: secondsSchema.describe("The pairing window, s"),
    builtInTestS: secondsSchema.describe("Its built-in CT test, s"),
    reconnectDelayS: secondsSchema.describe("Until it is on the grid again, s"),
    commsLossShutdownS: secondsSchema.describe("Until it stops without its partner, s"),
    dischargeS: secondsSchema.describe("Until its DC link is down, s"),
    firmwareS: secondsSchema.describe("New firmware, s"),
  })
  .default({});

/** What a device stands: shelter, temperatures in °C, weight in kg, holes in mm. */
export const environmentSchema = z
  .strictObject({
    shelter: z.enum(["indoors", "unheated", "outdoors"]).default("indoors").describe("Outdoors only if it says so"),
    weightKg: z.number().positive().max(2000).optional().describe("Weight, kg"),
    clearanceMm: z
      .strictObject({
        above: z.number().min(0).max(5000).describe("Above, mm"),
        below: z.number().min(0).max(5000).describe("Below, mm"),
        side: z.number().min(0).max(5000).describe("At each side, mm"),
      })
      .optional()
      .describe("Free space around it, mm"),
    temperatureC: z
      .strictObject({
        min: z.number().min(-60).max(60).describe("At least"),
        max: z.number().min(-20).max(90).describe("At most"),
      })
      .optional()
      .describe("Temperatures that it is for, °C"),
    drillMm: z.number().positive().max(200).optional().describe("Holes to drill, mm"),
  })
  .default({ shelter: "indoors" });

/** How a device holds an export limit: its unit, steps, bases, fail-safe and response. */
export const exportLimitSchema = z
  .strictObject({
    basis: z
      .array(z.enum(["sum", "per-phase"]))
      .min(1)
      .max(2)
      .describe("The sum of the phases, or each phase"),
    unit: z.enum(["W", "percent"]).describe("Unit of the value"),
    min: z.number().min(0).max(1e8).describe("At least"),
    max: z.number().positive().max(1e8).describe("At most"),
    step: z.number().positive().max(1e6).describe("In steps of"),
    failSafe: z
      .strictObject({
        timeS: z.number().positive().max(3600).describe("After so many seconds"),
        fallbackPct: z.number().min(0).max(100).describe("To so many percent of its rating"),
      })
      .optional()
      .describe("What it does without its meter"),
    response: z
      .strictObject({
        deadTimeMs: z.number().min(0).max(10_000).describe("Until anything happens, ms"),
        lagMs: z.number().positive().max(60_000).describe("Time constant, ms"),
        rampPctPerS: z.number().positive().max(1000).describe("Largest change, % of its rating a second"),
      })
      .optional()
      .describe(
        "How an inverter answers a command: nothing at first, then as a first-order lag, no faster than its ramp",
      ),
  })
  .refine(({ min, max }) => min <= max, { path: ["max"], message: "max is below min" });

/**
 * A rule on how devices may be joined. `check` names what can be told from a plan: chargers all behind the router once
 * there are two; one hub for all that pair with it; at most so many on a line; the module with the first address joins
 * the inverter; one adapter for each inverter.
 */
export const topologyRuleSchema = z
  .strictObject({
    rule: text().trim().min(1).max(60).describe("The rule, or where it comes from"),
    text: textSchema.describe("What it asks for"),
    why: textSchema.describe("Why"),
    check: z
      .enum(["all-behind-router", "one-hub", "most-on-line", "first-speaks", "one-device-a-line", "meter-by-cascade"])
      .optional()
      .describe("How it is told from the links"),
    most: z.int().min(1).max(247).optional().describe("At most so many"),
  })
  .refine(({ check, most }) => check !== "most-on-line" || most !== undefined, {
    path: ["most"],
    message: "say how many",
  });
