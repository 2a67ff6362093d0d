import { z } from "zod";
import { exportLimitRequestSchema } from "@/core/simulation/exportLimitSchema";
import { idSchema } from "@/core/names";
import { phaseSchema } from "@/core/phase";
import { text } from "@/core/text";

const MOST_POINTS = 700;

/** One happening of a list that somebody built: a load, the sun, or a loss. */
export const ownEventSchema = z.object({
  id: idSchema.optional().describe("Tells it from the others while it is changed"),
  atS: z.number().min(0).max(3600).describe("When, s"),
  what: z
    .enum(["load", "sun", "meter-lost", "meter-back", "inverter-lost", "inverter-back", "grid-lost", "grid-return"])
    .describe("What was measured, or what happens"),
  phase: z.enum(["L1", "L2", "L3"]).default("L1").describe("The phase"),
  inverter: text().max(64).default("").describe("The inverter"),
  powerW: z.number().min(0).max(1e7).default(0).describe("Power, W"),
});

const proofVerdictSchema = z
  .enum(["holds", "too-long", "too-high", "hunts", "untested"])
  .describe("Untested: the export never came near what is set, or was not recorded, so nothing had to hold");

/** One phase of a step test, where the limit is on each. */
const phaseProofSchema = z.object({
  phase: phaseSchema.describe("The phase"),
  exportW: z.array(z.number()).max(MOST_POINTS).describe("Export of this phase at each time, W"),
  verdict: proofVerdictSchema,
  maxExportW: z.number().describe("Largest export, W"),
  longestOverS: z.number().describe("Longest time above, s"),
  settledExportW: z.number().describe("Where it settled, W"),
});

/** A step test on site, as it was recorded and judged. */
const proofSchema = z.object({
  id: z.uuid().describe("Identifier"),
  at: z.iso.datetime().describe("When"),
  person: text().max(60).default("").describe("Who"),
  label: text().trim().min(1, "say what was switched").max(120).describe("What it is called"),
  onBench: z.boolean().optional().describe("Recorded on a bench: it proves nothing of the site"),
  limitW: z.number().describe("The limit, W"),
  secondsAllowed: z.number().describe("How long it may be above, s"),
  basis: z.enum(["sum", "per-phase"]).describe("The sum of the phases, or each phase"),
  tS: z.array(z.number()).max(MOST_POINTS).describe("Times, s"),
  exportW: z.array(z.number()).max(MOST_POINTS).describe("Export at each time, W"),
  verdict: proofVerdictSchema,
  maxExportW: z.number().describe("Largest export, W"),
  longestOverS: z.number().describe("Longest time above, s"),
  settledExportW: z.number().describe("Where it settled, W"),
  eachPhase: z.array(phaseProofSchema).max(3).optional().describe("The phases that were recorded, of a limit on each"),
  ofPhases: z.array(phaseSchema).max(3).optional().describe("The phases that a limit on each has to be proved on"),
});

/** A test on site in which the meter was taken away, as it was timed and judged. */
const fallbackTestSchema = z.object({
  id: z.uuid().describe("Identifier"),
  at: z.iso.datetime().describe("When"),
  person: text().max(60).default("").describe("Who"),
  onBench: z.boolean().optional().describe("Timed on a bench: it proves nothing of the site"),
  plannedS: z.number().describe("Set: after so many seconds"),
  latestS: z.number().describe("With its ramp, at the latest after so many seconds"),
  seconds: z.number().min(0).max(36_000).optional().describe("It took so many seconds; left out where it never did"),
  fallbackW: z.number().describe("What all inverters together may still make, W"),
  beforeW: z.number().describe("What they made before, W"),
  afterW: z.number().describe("What they made at the end, W"),
  verdict: z
    .enum(["falls-back", "late", "stays", "untested"])
    .describe("Untested: they made no more before than the fallback lets through"),
});

/** What is allowed, W and s, how it is held, and the step tests that prove it. */
export const limitSettingsSchema = z.object({
  powerW: z
    .number()
    .min(0)
    .max(1e8)
    .optional()
    .describe("What the network operator allows; undefined while nobody said"),
  basis: exportLimitRequestSchema.shape.limit.shape.basis
    .unwrap()
    .default("sum")
    .describe("The sum of the phases, or each phase"),
  secondsAllowed: z.number().min(0).max(3600).default(5).describe("How long it may be above, s"),
  rule: text()
    .trim()
    .max(200, "at most 200 characters")
    .default("")
    .describe("Where the rule comes from, in the technician's words"),
  gainPerS: z.number().positive().max(1000).default(0.5).describe("Gain, 1/s"),
  deadBandW: z.number().min(0).max(1e6).default(50).describe("Dead band, W"),
  setPointW: z.number().min(0).max(1e8).optional().describe("Typed instead of the safe one"),
  events: z.array(ownEventSchema).max(60).default([]).describe("What happens in one's own scenario"),
  columns: z
    .object({
      time: text().max(80).describe("Column of the time"),
      power: text().max(80).describe("Column of the power"),
      isExportPositive: z.boolean().describe("Export is positive in the file"),
      unit: z.enum(["W", "kW"]).optional().describe("Of the powers, where the file does not say it"),
      phases: z
        .partialRecord(phaseSchema, text().max(80))
        .optional()
        .describe("Columns of the phases, where the limit is on each"),
    })
    .optional()
    .describe("Column names of the last import of readings"),
  proofs: z.array(proofSchema).max(40).default([]).describe("Step tests as they were recorded and judged"),
  fallbackTests: z
    .array(fallbackTestSchema)
    .max(40)
    .default([])
    .describe("Tests of what happens without the meter, as they were timed and judged"),
});

/** What is said of the export limit beside the plan. */
export type LimitSettings = z.output<typeof limitSettingsSchema>;
/** One happening of a list that somebody built. */
export type OwnEvent = z.output<typeof ownEventSchema>;
/** One phase of a step test. */
export type PhaseProof = z.output<typeof phaseProofSchema>;
/** A step test as it was recorded and judged. */
export type LimitProof = z.output<typeof proofSchema>;
/** A test in which the meter was taken away, as it was timed and judged. */
export type FallbackTest = z.output<typeof fallbackTestSchema>;
