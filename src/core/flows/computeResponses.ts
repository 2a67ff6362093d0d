import { z } from "zod";
import { conductorSchema, windowEntrySchema } from "@/core/site/planSchema";
import { phaseSchema } from "@/core/phase";
import { knownDeviceShape } from "@/core/flows/testSheetSchema";

/**
 * What the compute routes answer, as schemas: the OpenAPI page is made from them and the tests hold the routes to them.
 */
export const predictResponseSchema = z.strictObject({
  inputs: z.array(
    z.strictObject({
      meter: z.string(),
      input: z.int(),
      powerW: z.number(),
      reactiveVar: z.number(),
      currentA: z.number(),
      flow: z.enum(["to-load", "to-grid", "none"]),
    }),
  ),
  meters: z.array(z.strictObject({ meter: z.string(), powerW: z.number() })),
  runs: z.array(
    z.strictObject({
      run: z.string(),
      conductor: conductorSchema,
      currentA: z.number(),
      angleDeg: z.number(),
      powerW: z.number(),
    }),
  ),
});

const onInput = { meter: z.string(), input: z.int() };

/** One thing that is wrong with a fitting. */
export const faultSchema = z.discriminatedUnion("kind", [
  z.strictObject({ kind: z.literal("reversed"), ...onInput }),
  z.strictObject({ kind: z.literal("meter-reversed"), meter: z.string() }),
  z.strictObject({ kind: z.literal("wrong-phase"), ...onInput, conductor: phaseSchema }),
  z.strictObject({ kind: z.literal("exchanged"), meter: z.string(), inputs: z.tuple([z.int(), z.int()]) }),
  z.strictObject({ kind: z.literal("places-exchanged"), meter: z.string(), inputs: z.tuple([z.int(), z.int()]) }),
  z.strictObject({ kind: z.literal("rotated"), meter: z.string(), inputs: z.tuple([z.int(), z.int(), z.int()]) }),
  z.strictObject({ kind: z.literal("wrong-run"), ...onInput, run: z.string() }),
  z.strictObject({ kind: z.literal("ratio"), ...onInput, gain: z.number() }),
  z.strictObject({ kind: z.literal("dead"), ...onInput }),
  z.strictObject({ kind: z.literal("taps-exchanged"), meter: z.string(), taps: z.tuple([z.string(), z.string()]) }),
]);

const explanationShape = {
  verdict: z.enum(["as-planned", "faults-found", "ambiguous", "not-explained", "reading-doubtful"]),
  hypotheses: z.array(
    z.strictObject({
      probability: z.number(),
      faults: z.array(faultSchema),
      fitting: z.strictObject({
        inputs: z.array(
          z.strictObject({ ...onInput, around: z.array(windowEntrySchema), reversed: z.boolean(), gain: z.number() }),
        ),
        taps: z.array(z.looseObject({ meter: z.string() })),
      }),
      alternatives: z.array(z.array(faultSchema)),
      residual: z.number(),
      cure: z.array(z.string()),
    }),
  ),
  nextTests: z.array(
    z.strictObject({
      label: z.string(),
      node: z.string().nullable(),
      phase: phaseSchema.nullable(),
      powerW: z.number(),
      gainBits: z.number(),
      settles: z.number().describe("The part of what is still open that it would settle, 0 to 1"),
      why: z.string(),
      devices: z.array(knownDeviceShape),
    }),
  ),
  scored: z.int(),
  fitProbability: z.number(),
};

/** The answer of the route `diagnose`. */
export const diagnoseResponseSchema = z.strictObject({
  ...explanationShape,
  doubt: z
    .strictObject({
      kind: z.enum(["reading", "meter", "swapped", "switching", "device"]),
      step: z.int().describe("The step, from 0"),
      readings: z.array(z.strictObject({ ...onInput, powerW: z.number(), wouldBeW: z.number() })),
      faults: z.array(faultSchema),
      why: z.string(),
    })
    .optional()
    .describe("The one odd thing that explains the sheet as well as a fault does, where the verdict is so"),
});

/** The answer of the route `diagnose-log`. */
export const diagnoseLogResponseSchema = z.strictObject({
  ...explanationShape,
  rowsUsed: z.int(),
  hours: z.array(z.strictObject({ fromS: z.number(), toS: z.number(), bits: z.number() })),
  lags: z.array(z.strictObject({ meter: z.string(), seconds: z.number() })),
});

/** The answer of the route `proof-plan`. */
export const proofPlanResponseSchema = z.strictObject({
  steps: z.array(z.strictObject({ label: z.string(), devices: z.array(knownDeviceShape), minutes: z.number() })),
  singleFaults: z.strictObject({ told: z.int(), of: z.int() }),
  pairsToldPct: z.number(),
  excluded: z.array(
    z.strictObject({
      faults: z.array(faultSchema),
      words: z.string(),
      toldBy: z.int().nullable().describe("The step, from 0, from which on it is told"),
      bits: z.number().describe("Expected evidence for it against the plan, were it so"),
    }),
  ),
  cannotTell: z.array(
    z.strictObject({
      faults: z.array(faultSchema),
      with: z.array(faultSchema).describe("Empty where it is the plan itself"),
      why: z.string(),
      wouldNeed: z.string(),
    }),
  ),
});

/** The answer of the route `balance`. */
export const balanceResponseSchema = z.strictObject({
  verdict: z.enum(["balances", "within-rounding", "lag-would-explain", "does-not-balance"]),
  gapW: z.number(),
  roundingW: z.number(),
  lagW: z.number(),
  cause: z.looseObject({ kind: z.enum(["sign-flip", "counted-twice", "missing-device"]) }).nullable(),
  text: z.string(),
});

/** What every compute route answers when it cannot. */
export const computeErrorSchema = z.object({
  error: z.object({
    code: z.string(),
    message: z.string(),
    issues: z.array(z.object({ path: z.string(), message: z.string() })),
  }),
});
