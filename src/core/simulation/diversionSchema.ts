import { z } from "zod";
import { ARCHETYPES } from "@/core/simulation/house";
import { refineWith, type Problem } from "@/core/problem";

const MAX_VALUES = 527_040;
const hour = z.number().min(0).max(24);
const watts = z.array(z.number().min(0).max(1e7)).max(MAX_VALUES);

export const actorSchema = z.enum(["battery", "heater", "vehicle"]);
const archetypeSchema = z.enum(Object.keys(ARCHETYPES) as [keyof typeof ARCHETYPES, ...(keyof typeof ARCHETYPES)[]]);

const fieldSchema = z.object({
  kwp: z.number().positive().max(100_000),
  tiltDeg: z.number().min(0).max(90).default(35),
  azimuthDeg: z.number().min(0).max(360).default(180),
});

const batterySchema = z.object({
  capacityKwh: z.number().positive().max(100_000),
  powerW: z.number().positive().max(1e7),
  /** There and back. */
  efficiencyPct: z.number().min(30).max(100).default(90),
  minSocPct: z.number().min(0).max(90).default(10),
  startSocPct: z.number().min(0).max(100).default(50),
  /** Import that it holds the grid at, W. */
  setPointW: z.number().min(-5000).max(5000).default(0),
});

const heaterSchema = z.object({
  ratedW: z.number().positive().max(100_000),
  litres: z.number().positive().max(20_000).default(200),
  lossWPerK: z.number().min(0).max(100).default(1.8),
  thermostatC: z.number().min(30).max(90).default(65),
  inletC: z.number().min(0).max(30).default(10),
  startC: z.number().min(0).max(90).default(45),
  drawLitresADay: z.number().min(0).max(10_000).default(120),
  /** 0: phase angle, any power; else so many equal steps. */
  steps: z.int().min(0).max(9).default(0),
  /** From the grid in these hours until the water is hot enough; none where both are the same. */
  boostFromH: hour.default(0),
  boostToH: hour.default(0),
  boostToC: z.number().min(30).max(90).default(50),
  setPointW: z.number().min(-5000).max(5000).default(0),
});

const vehicleSchema = z.object({
  phases: z.union([z.literal(1), z.literal(3)]).default(1),
  minA: z.number().min(6, "a vehicle takes at least 6 A a phase").max(32).default(6),
  maxA: z.number().min(6).max(80).default(16),
  voltageV: z.number().min(100).max(300).default(230),
  capacityKwh: z.number().positive().max(1000).default(55),
  kwhPer100km: z.number().positive().max(200).default(18),
  kmADay: z.number().min(0).max(2000).default(35),
  pluggedFromH: hour.default(17),
  pluggedToH: hour.default(8),
});

const factor = z.number().min(-10).max(10).default(1);
/**
 * How often each flow counts in a controller's measured sum: 1 as it should, 2 twice, 0 not at all, −1 the wrong way.
 */
const sightSchema = z.object({ sun: factor, house: factor, battery: factor, heater: factor, vehicle: factor });

const tariffSchema = z.object({
  importPerKwh: z.number().min(0).max(10).default(0.32),
  nightPerKwh: z.number().min(0).max(10).default(0.22),
  nightFromH: hour.default(0),
  nightToH: hour.default(6),
  exportPerKwh: z.number().min(-1).max(10).default(0.08),
});

const requestShape = z.object({
  days: z.int().min(1).max(366),
  stepMin: z
    .number()
    .min(1 / 60, "a step of at least a second")
    .max(60)
    .default(1),
  firstDay: z.int("day of the year, 1 for the first of January").min(1).max(365).default(172),
  place: z
    .object({
      latDeg: z.number().min(-66).max(66),
      lonDeg: z.number().min(-180).max(180),
      utcOffsetH: z.number().min(-12).max(14),
    })
    .default({ latDeg: 52, lonDeg: 0, utcOffsetH: 0 }),
  fields: z.array(fieldSchema).max(12).default([]),
  cloudiness: z.number().min(0).max(1).default(0.6),
  seed: z
    .int()
    .min(0)
    .max(2 ** 31)
    .default(1),
  /** Instead of fields: W at each step. */
  sunW: watts.optional(),
  house: z
    .object({ archetype: archetypeSchema.default("family"), kwhYear: z.number().min(0).max(1e7).default(4000) })
    .default({ archetype: "family", kwhYear: 4000 }),
  /** Instead of a profile: W at each step. */
  houseW: watts.optional(),
  battery: batterySchema.optional(),
  heater: heaterSchema.optional(),
  vehicle: vehicleSchema.optional(),
  tariff: tariffSchema.default(() => tariffSchema.parse({})),
  orders: z
    .array(z.array(actorSchema).max(3))
    .min(1)
    .max(6)
    .default([["battery", "heater", "vehicle"]]),
  /** Heater and battery act on one grid CT, so that the battery can feed the heater. */
  sharedCt: z.boolean().default(false),
  /** What each actor's controller sees of the flows, where it is not what is there. */
  sight: z
    .object({ battery: sightSchema.optional(), heater: sightSchema.optional(), vehicle: sightSchema.optional() })
    .optional(),
  /** Whether the flows at each step come with the answer; of at most a week. */
  series: z.boolean().default(false),
});

export const diversionRequestSchema = requestShape.superRefine(refineWith(diversionProblems));

/** Each part where nobody said more than that it is there. */
export const USUAL_DIVERSION = requestShape.parse({ days: 1 });
export const USUAL_FIELD = fieldSchema.omit({ kwp: true }).parse({});
export const USUAL_STORAGE = batterySchema.omit({ capacityKwh: true, powerW: true }).parse({});
export const USUAL_HEATER = heaterSchema.omit({ ratedW: true }).parse({});
export const USUAL_VEHICLE = vehicleSchema.parse({});

const totalsShape = z.object({
  order: z.array(actorSchema),
  sunKwh: z.number(),
  houseKwh: z.number(),
  selfUseKwh: z.number(),
  importKwh: z.number(),
  exportKwh: z.number(),
  batteryInKwh: z.number(),
  batteryOutKwh: z.number(),
  batteryLossKwh: z.number(),
  heaterKwh: z.number(),
  heaterFromBatteryKwh: z.number(),
  hotLitres: z.number(),
  tankLossKwh: z.number(),
  tankDrawnKwh: z.number(),
  vehicleKwh: z.number(),
  km: z.number(),
  money: z.number(),
  endSocPct: z.number(),
  startTankC: z.number(),
  endTankC: z.number(),
  weeksAt60: z.int(),
  weeks: z.int(),
  /** January to December; nothing in months that the simulated time does not touch. */
  byMonth: z
    .array(z.object({ sunKwh: z.number(), exportKwh: z.number(), importKwh: z.number(), heaterKwh: z.number() }))
    .length(12),
});

const list = z.array(z.number());

export const diversionResponseSchema = z.object({
  totals: z.array(totalsShape),
  series: z
    .object({
      hour: list,
      sunW: list,
      houseW: list,
      batteryW: list,
      heaterW: list,
      vehicleW: list,
      gridW: list,
      seenW: list,
      socPct: list,
      tankC: list,
    })
    .optional(),
});

export type DiversionRequest = z.output<typeof diversionRequestSchema>;
export type DiversionTotals = z.output<typeof totalsShape>;
export type DiversionResult = z.output<typeof diversionResponseSchema>;
export type FlowSight = z.output<typeof sightSchema>;
export type SurplusActor = z.output<typeof actorSchema>;

function diversionProblems({
  days,
  stepMin,
  sunW,
  houseW,
  orders,
  series,
}: {
  readonly days: number;
  readonly stepMin: number;
  readonly sunW?: readonly number[] | undefined;
  readonly houseW?: readonly number[] | undefined;
  readonly orders: readonly (readonly string[])[];
  readonly series: boolean;
}): readonly Problem[] {
  const count = days * Math.round(1440 / stepMin);
  return [
    ...(count > MAX_VALUES
      ? [{ path: ["stepMin"], message: `${count} steps; at most ${MAX_VALUES}: take a longer step or fewer days` }]
      : []),
    ...(series && days > 7
      ? [{ path: ["series"], message: "flows at each step are given for at most seven days" }]
      : []),
    ...(
      [
        ["sunW", sunW],
        ["houseW", houseW],
      ] as const
    ).flatMap(([name, values]) =>
      values && values.length !== count
        ? [{ path: [name], message: `${values.length} values for ${count} steps` }]
        : [],
    ),
    ...orders.flatMap((order, at) =>
      new Set(order).size === order.length ? [] : [{ path: ["orders", at], message: "each stands once" }],
    ),
  ];
}
