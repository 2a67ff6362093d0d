import { z } from "zod";
import { findingSchema, type WithFindings } from "@/core/findings";
import { given } from "@/core/given";
import { refineWith, type Problem } from "@/core/problem";
import { idSchema } from "@/core/names";
import { phaseSchema } from "@/core/phase";
import { text } from "@/core/text";

const MAX_STEPS = 400_000;
const watt = z.number().min(-1e8).max(1e8);
const wattUp = z.number().min(0).max(1e8);
const milliseconds = z.number().min(0).max(600_000);
const second = z.number().min(0).max(36_000);

const inverterShape = z.object({
  id: idSchema,
  ratedW: z.number().positive().max(1e8),
  availableW: wattUp,
  phases: z.array(phaseSchema).min(1).max(3),
  deadTimeMs: milliseconds.default(200),
  tauMs: milliseconds.default(400),
  rampWPerS: z.number().positive().max(1e9).default(1e9),
  minW: wattUp.default(0),
  /** What it does when nothing new was heard for so long. */
  lostMeter: z.object({ afterMs: milliseconds, fallbackW: wattUp }).optional(),
});

/** Another controller on the same grid: it holds the grid at its own set-point, W of import. */
const actorShape = z.object({
  phases: z.array(phaseSchema).min(1).max(3),
  gainPerS: z.number().min(0).max(100),
  setPointW: watt.default(0),
  periodMs: milliseconds.default(1000),
  tauMs: milliseconds.default(300),
});

/** Another controller where nobody said otherwise. */
export const USUAL_ACTOR = actorShape.omit({ phases: true, gainPerS: true }).parse({});

const eventShape = z.discriminatedUnion("kind", [
  z.object({ atS: second, kind: z.literal("meter-lost") }),
  z.object({ atS: second, kind: z.literal("meter-back") }),
  z.object({ atS: second, kind: z.literal("inverter-lost"), id: idSchema }),
  z.object({ atS: second, kind: z.literal("inverter-back"), id: idSchema }),
  z.object({ atS: second, kind: z.literal("grid-lost") }),
  z.object({ atS: second, kind: z.literal("grid-return") }),
  /** A cloud edge: what the sun gives from now on, of one inverter or of all. */
  z.object({ atS: second, kind: z.literal("sun"), id: idSchema.optional(), availableW: wattUp }),
]);

/** What the route `export-limit` takes: limit, inverters, meter, controller, happenings. */
export const exportLimitRequestSchema = z
  .object({
    system: z.enum(["single-phase", "split-phase", "three-phase"]),
    limit: z.object({
      powerW: wattUp,
      basis: z.enum(["sum", "per-phase"]).default("sum"),
      secondsAllowed: second.default(5),
    }),
    stepMs: z.number().min(1).max(50, "a step of at most 50 ms").default(20),
    durationS: z.number().positive().max(36_000),
    inverters: z.array(inverterShape).min(1, "name at least one inverter").max(64),
    meter: z.object({
      samplePeriodMs: z.number().min(1).max(600_000),
      delayMs: milliseconds,
      errorPct: z.number().min(-50).max(50).default(0),
    }),
    controller: z.object({
      kind: z.enum(["integral", "proportional"]),
      gainPerS: z.number().positive().max(1000),
      setPointW: watt,
      deadBandW: wattUp.default(0),
      periodMs: z.number().min(1).max(600_000),
    }),
    /** Step changes to the load of a phase. */
    loads: z
      .array(z.object({ atS: second, phase: phaseSchema, powerW: wattUp }))
      .max(2000)
      .default([]),
    events: z.array(eventShape).max(500).default([]),
    battery: actorShape.extend({ powerW: wattUp }).optional(),
    diverter: actorShape.extend({ ratedW: wattUp }).optional(),
  })
  .superRefine(refineWith(requestProblems));

const nullableSecond = z.number().nullable();

/** The answer of the route `export-limit`. */
export const exportLimitResponseSchema = z.object({
  maxExportW: z.number(),
  worstPhase: phaseSchema,
  secondsOver: z.number(),
  longestOverS: z.number(),
  settledExportW: z.number(),
  oscillates: z.boolean(),
  /** From the loss of the meter until all are at their fallback; null without one. */
  fallbackS: nullableSecond,
  delayBudgetMs: z.object({
    sampling: z.number(),
    transport: z.number(),
    controller: z.number(),
    deadTime: z.number(),
    lag: z.number(),
    total: z.number(),
    dominant: text(),
  }),
  maxStableGainPerS: z.number(),
  recommendedSetPointW: z.number(),
  verdict: z.enum(["holds", "too-long", "too-high", "hunts"]),
  findings: z.array(findingSchema),
  series: z.object({
    tS: z.array(z.number()),
    gridW: z.array(z.number()),
    phaseW: z.record(text(), z.array(z.number())),
    loadW: z.array(z.number()),
    inverterW: z.array(z.number()),
    /** Each by its id. */
    inverters: z.record(text(), z.array(z.number())),
    /** What the controller believes of the grid. */
    seenW: z.array(z.number()),
    batteryW: z.array(z.number()),
    diverterW: z.array(z.number()),
  }),
});

/** A limit with everything that acts on it; W, ms, s. */
export type ExportLimitRequest = z.output<typeof exportLimitRequestSchema>;
/** Whether a limit holds, how close, and why not. */
export type ExportLimitResult = WithFindings<z.output<typeof exportLimitResponseSchema>>;
/** One happening at a time, s. */
export type ExportEvent = ExportLimitRequest["events"][number];

function requestProblems({
  inverters,
  events,
  stepMs,
  durationS,
  system,
  loads,
}: {
  readonly inverters: readonly z.output<typeof inverterShape>[];
  readonly events: readonly z.output<typeof eventShape>[];
  readonly stepMs: number;
  readonly durationS: number;
  readonly system: string;
  readonly loads: readonly { readonly phase: string }[];
}): readonly Problem[] {
  const ids = new Set(inverters.map(({ id }) => id));
  const count = system === "three-phase" ? 3 : system === "split-phase" ? 2 : 1;
  const has = (phase: string) => Number(phase.slice(1)) <= count;
  return given(
    (durationS * 1000) / stepMs > MAX_STEPS && {
      path: ["durationS"],
      message: `more than ${MAX_STEPS} steps; take a longer step or a shorter time`,
    },
    inverters.flatMap((inverter, at) => [
      ...(inverters.findIndex(({ id }) => id === inverter.id) < at
        ? [{ path: ["inverters", at, "id"], message: `the id "${inverter.id}" is used twice` }]
        : []),
      ...inverter.phases.flatMap((phase, which) =>
        has(phase) ? [] : [{ path: ["inverters", at, "phases", which], message: `this supply has no ${phase}` }],
      ),
    ]),
    loads.flatMap(({ phase }, at) =>
      has(phase) ? [] : [{ path: ["loads", at, "phase"], message: `this supply has no ${phase}` }],
    ),
    events.flatMap((event, at) =>
      "id" in event && event.id !== undefined && !ids.has(event.id)
        ? [{ path: ["events", at, "id"], message: `there is no inverter "${event.id}"` }]
        : [],
    ),
  );
}
