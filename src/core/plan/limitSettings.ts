import { z } from "zod";
import { exportLimitRequestSchema } from "@/core/simulation/exportLimitSchema";
import { text } from "@/core/text";

const MOST_POINTS = 700;

/** One happening of a list that somebody built: a load, the sun, or a loss. */
export const ownEventSchema = z.object({
  atS: z.number().min(0).max(3600),
  what: z.enum([
    "load",
    "sun",
    "meter-lost",
    "meter-back",
    "inverter-lost",
    "inverter-back",
    "grid-lost",
    "grid-return",
  ]),
  phase: z.enum(["L1", "L2", "L3"]).default("L1"),
  inverter: text().max(64).default(""),
  powerW: z.number().min(0).max(1e7).default(0),
});

/** A step test on site, as it was recorded and judged. */
const proofSchema = z.object({
  id: z.uuid(),
  at: z.iso.datetime(),
  person: text().max(60).default(""),
  label: text().trim().min(1, "say what was switched").max(120),
  limitW: z.number(),
  secondsAllowed: z.number(),
  basis: z.enum(["sum", "per-phase"]),
  tS: z.array(z.number()).max(MOST_POINTS),
  exportW: z.array(z.number()).max(MOST_POINTS),
  /** Untested: the export never came near what is set, so nothing had to hold. */
  verdict: z.enum(["holds", "too-long", "too-high", "hunts", "untested"]),
  maxExportW: z.number(),
  longestOverS: z.number(),
  settledExportW: z.number(),
});

export const limitSettingsSchema = z.object({
  /** What the network operator allows; undefined while nobody said. */
  powerW: z.number().min(0).max(1e8).optional(),
  basis: exportLimitRequestSchema.shape.limit.shape.basis.unwrap().default("sum"),
  secondsAllowed: z.number().min(0).max(3600).default(5),
  /** Where the rule comes from, in the technician's words. */
  rule: text().trim().max(200, "at most 200 characters").default(""),
  gainPerS: z.number().positive().max(1000).default(0.5),
  deadBandW: z.number().min(0).max(1e6).default(50),
  /** Typed instead of the safe one. */
  setPointW: z.number().min(0).max(1e8).optional(),
  events: z.array(ownEventSchema).max(60).default([]),
  /** Column names of the last import of readings. */
  columns: z.object({ time: text().max(80), power: text().max(80), isExportPositive: z.boolean() }).optional(),
  proofs: z.array(proofSchema).max(40).default([]),
});

export type LimitSettings = z.output<typeof limitSettingsSchema>;
export type OwnEvent = z.output<typeof ownEventSchema>;
export type LimitProof = z.output<typeof proofSchema>;
