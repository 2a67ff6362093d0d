import { z } from "zod";
import { text } from "@/core/text";

const textSchema = text().trim().min(1).max(300);
const secondsSchema = z.number().positive().max(86_400).optional();

export const lampSchema = z.strictObject({
  lamp: text().trim().min(1).max(40),
  colour: text().trim().min(1).max(20),
  pattern: z.enum(["off", "steady", "slow-blink", "fast-blink", "double-blink", "alternating"]),
  means: textSchema,
});

const sourceSchema = z.enum(["battery", "dc", "ac", "meter", "network", "this"]);

/** One constraint on the order of switching on, with the reason. */
export const powerUpSchema = z
  .strictObject({ first: sourceSchema, then: sourceSchema, why: textSchema })
  .refine(({ first, then }) => first !== then, { path: ["then"], message: "the two are the same" });

export const timersSchema = z
  .strictObject({
    bootS: secondsSchema,
    pairingWindowS: secondsSchema,
    builtInTestS: secondsSchema,
    reconnectDelayS: secondsSchema,
    commsLossShutdownS: secondsSchema,
    dischargeS: secondsSchema,
    firmwareS: secondsSchema,
  })
  .default({});

export const environmentSchema = z
  .strictObject({
    /** Outdoors only if it says so. */
    shelter: z.enum(["indoors", "unheated", "outdoors"]).default("indoors"),
    weightKg: z.number().positive().max(2000).optional(),
    clearanceMm: z
      .strictObject({
        above: z.number().min(0).max(5000),
        below: z.number().min(0).max(5000),
        side: z.number().min(0).max(5000),
      })
      .optional(),
    temperatureC: z.strictObject({ min: z.number().min(-60).max(60), max: z.number().min(-20).max(90) }).optional(),
    drillMm: z.number().positive().max(200).optional(),
  })
  .default({ shelter: "indoors" });

export const exportLimitSchema = z
  .strictObject({
    basis: z
      .array(z.enum(["sum", "per-phase"]))
      .min(1)
      .max(2),
    unit: z.enum(["W", "percent"]),
    min: z.number().min(0).max(1e8),
    max: z.number().positive().max(1e8),
    step: z.number().positive().max(1e6),
    failSafe: z
      .strictObject({ timeS: z.number().positive().max(3600), fallbackPct: z.number().min(0).max(100) })
      .optional(),
    /** How an inverter answers a command: nothing at first, then as a first-order lag, no faster than its ramp. */
    response: z
      .strictObject({
        deadTimeMs: z.number().min(0).max(10_000),
        lagMs: z.number().positive().max(60_000),
        rampPctPerS: z.number().positive().max(1000),
      })
      .optional(),
  })
  .refine(({ min, max }) => min <= max, { path: ["max"], message: "max is below min" });

/**
 * A rule on how devices may be joined. `check` names what can be told from a plan: chargers all behind the router once
 * there are two; one hub for all that pair with it; at most so many on a line; the module with the first address joins
 * the
 * inverter; one adapter for each inverter.
 */
export const topologyRuleSchema = z
  .strictObject({
    rule: text().trim().min(1).max(60),
    text: textSchema,
    why: textSchema,
    check: z.enum(["all-behind-router", "one-hub", "most-on-line", "first-speaks", "one-device-a-line"]).optional(),
    most: z.int().min(1).max(247).optional(),
  })
  .refine(({ check, most }) => check !== "most-on-line" || most !== undefined, {
    path: ["most"],
    message: "say how many",
  });
