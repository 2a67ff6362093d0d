import { z } from "zod";
import { given } from "@/core/given";
import { ARCHETYPES } from "@/core/simulation/house";
import { refineWith, type Problem } from "@/core/problem";

const MAX_VALUES = 527_040;
const hour = z.number().min(0).max(24);
const watts = z.array(z.number().min(0).max(1e7)).max(MAX_VALUES);

/** What takes surplus. */
export const actorSchema = z.enum(["battery", "heater", "vehicle"]);
const archetypeSchema = z.enum(Object.keys(ARCHETYPES) as [keyof typeof ARCHETYPES, ...(keyof typeof ARCHETYPES)[]]);

const fieldSchema = z.object({
  kwp: z.number().positive().max(100_000).describe("Peak power, kWp"),
  tiltDeg: z.number().min(0).max(90).default(35).describe("Tilt, degrees"),
  azimuthDeg: z
    .number()
    .min(0)
    .max(360)
    .optional()
    .describe("Azimuth, degrees from north; to the equator where left out"),
});

const batterySchema = z.object({
  capacityKwh: z.number().positive().max(100_000).describe("Capacity, kWh"),
  powerW: z.number().positive().max(1e7).describe("Power, W"),
  efficiencyPct: z.number().min(30).max(100).default(90).describe("There and back"),
  minSocPct: z.number().min(0).max(90).default(10).describe("Never below, %"),
  startSocPct: z.number().min(0).max(100).default(50).describe("At the beginning, %"),
  setPointW: z.number().min(-5000).max(5000).default(0).describe("Import that it holds the grid at, W"),
});

const heaterSchema = z.object({
  ratedW: z.number().positive().max(100_000).describe("Rated power, W"),
  litres: z.number().positive().max(20_000).default(200).describe("Volume, l"),
  lossWPerK: z.number().min(0).max(100).default(1.8).describe("Losses, W/K"),
  thermostatC: z.number().min(30).max(90).default(65).describe("Thermostat, °C"),
  inletC: z.number().min(0).max(30).default(10).describe("Cold water, °C"),
  startC: z.number().min(0).max(90).default(45).describe("At the beginning, °C"),
  drawLitresADay: z.number().min(0).max(10_000).default(120).describe("Drawn in a day, l"),
  steps: z.int().min(0).max(9).default(0).describe("0: phase angle, any power; else so many equal steps"),
  boostFromH: hour
    .default(0)
    .describe("From the grid in these hours until the water is hot enough; none where both are the same"),
  boostToH: hour.default(0).describe("Boost to, h"),
  boostToC: z.number().min(30).max(90).default(50).describe("Boost to, °C"),
  setPointW: z.number().min(-5000).max(5000).default(0).describe("Set-point, W"),
});

const vehicleSchema = z.object({
  phases: z
    .union([z.literal(1), z.literal(3)])
    .default(1)
    .describe("The phases that it is on"),
  minA: z.number().min(6, "a vehicle takes at least 6 A a phase").max(32).default(6).describe("Least current, A"),
  maxA: z.number().min(6).max(80).default(16).describe("Largest current, A"),
  voltageV: z.number().min(100).max(300).default(230).describe("Voltage, V"),
  capacityKwh: z.number().positive().max(1000).default(55).describe("Capacity, kWh"),
  kwhPer100km: z.number().positive().max(200).default(18).describe("What it uses, kWh in 100 km"),
  efficiencyPct: z.number().min(30).max(100).default(90).describe("Of what is charged, what it drives with, %"),
  kmADay: z.number().min(0).max(2000).default(35).describe("What it drives, km a day"),
  pluggedFromH: hour.default(17).describe("Plugged in from, h"),
  pluggedToH: hour.default(8).describe("Plugged in to, h"),
});

const factor = z.number().min(-10).max(10).default(1);
/**
 * How often each flow counts in a controller's measured sum: 1 as it should, 2 twice, 0 not at all, −1 the wrong way.
 */
const sightSchema = z.object({
  sun: factor,
  house: factor.describe("What the house draws"),
  battery: factor.describe("The battery"),
  heater: factor.describe("The water heater"),
  vehicle: factor.describe("The vehicle"),
});

const tariffSchema = z.object({
  importPerKwh: z.number().min(0).max(10).default(0.32).describe("Import, a kWh"),
  nightPerKwh: z.number().min(0).max(10).default(0.22).describe("Import at night, a kWh"),
  nightFromH: hour.default(0).describe("Night from, h"),
  nightToH: hour.default(6).describe("Night to, h"),
  exportPerKwh: z.number().min(-1).max(10).default(0.08).describe("Export, a kWh"),
});

const requestShape = z.object({
  days: z.int().min(1).max(366),
  stepMin: z
    .number()
    .min(1 / 60, "a step of at least a second")
    .max(60)
    .default(1),
  firstDay: z
    .int("day of the year, 1 for the first of January")
    .min(1)
    .max(365)
    .default(172)
    .describe("First day of the year, from 1"),
  place: z
    .object({
      latDeg: z.number().min(-66).max(66).describe("Latitude, degrees"),
      lonDeg: z.number().min(-180).max(180).describe("Longitude, degrees"),
      utcOffsetH: z.number().min(-12).max(14).describe("Hours from UTC"),
    })
    .default({ latDeg: 52, lonDeg: 0, utcOffsetH: 0 })
    .describe("Where it is"),
  fields: z.array(fieldSchema).max(12).default([]).describe("Fields of modules"),
  cloudiness: z.number().min(0).max(1).default(0.6).describe("From 0, clear, to 1, overcast"),
  seed: z
    .int()
    .min(0)
    .max(2 ** 31)
    .default(1)
    .describe("Seed of sun and house"),
  sunW: watts.optional().describe("Instead of fields: W at each step"),
  house: z
    .object({
      archetype: archetypeSchema.default("family").describe("The kind of household"),
      kwhYear: z.number().min(0).max(1e7).default(4000).describe("A year, kWh"),
    })
    .default({ archetype: "family", kwhYear: 4000 })
    .describe("What the house draws"),
  houseW: watts.optional().describe("Instead of a profile: W at each step"),
  battery: batterySchema.optional().describe("The battery"),
  heater: heaterSchema.optional().describe("The water heater"),
  vehicle: vehicleSchema.optional().describe("The vehicle"),
  tariff: tariffSchema.default(() => tariffSchema.parse({})).describe("What energy costs"),
  orders: z
    .array(z.array(actorSchema).max(3))
    .min(1)
    .max(6)
    .default([["battery", "heater", "vehicle"]]),
  sharedCt: z
    .boolean()
    .default(false)
    .describe("Heater and battery act on one grid CT, so that the battery can feed the heater"),
  sight: z
    .object({
      battery: sightSchema.optional().describe("The battery"),
      heater: sightSchema.optional().describe("The water heater"),
      vehicle: sightSchema.optional().describe("The vehicle"),
    })
    .optional()
    .describe("What each actor's controller sees of the flows, where it is not what is there"),
  series: z.boolean().default(false).describe("Whether the flows at each step come with the answer; of at most a week"),
});

/** What the route `diversion` takes: sun, house, battery, heater, vehicle, orders. */
export const diversionRequestSchema = requestShape.superRefine(refineWith(diversionProblems));

/** Each part where nobody said more than that it is there. */
export const USUAL_DIVERSION = requestShape.parse({ days: 1 });
/** A field of modules where nobody said; kWp and degrees. */
export const USUAL_FIELD = fieldSchema.omit({ kwp: true }).parse({});
/** A battery where nobody said; kWh and W. */
export const USUAL_STORAGE = batterySchema.omit({ capacityKwh: true, powerW: true }).parse({});
/** A water heater where nobody said; W, litres, °C. */
export const USUAL_HEATER = heaterSchema.omit({ ratedW: true }).parse({});
/** A vehicle where nobody said; A, kWh, hours. */
export const USUAL_VEHICLE = vehicleSchema.parse({});

const totalsShape = z.object({
  order: z.array(actorSchema).describe("The order that is meant to be set"),
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
  byMonth: z
    .array(z.object({ sunKwh: z.number(), exportKwh: z.number(), importKwh: z.number(), heaterKwh: z.number() }))
    .length(12)
    .describe("January to December; nothing in months that the simulated time does not touch"),
});

const list = z.array(z.number());

/** The answer of the route `diversion`. */
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

/** Sun, house and what takes surplus, with the orders to try. */
export type DiversionRequest = z.output<typeof diversionRequestSchema>;
/** Where the sun went in one order, kWh, and what that cost. */
export type DiversionTotals = z.output<typeof totalsShape>;
/** The totals of each order, and the flows of a day, W. */
export type DiversionResult = z.output<typeof diversionResponseSchema>;
/** How often each flow counts in a measured sum; 1 as it should. */
export type FlowSight = z.output<typeof sightSchema>;
/** What takes surplus. */
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
  return given(
    count > MAX_VALUES && {
      path: ["stepMin"],
      message: `${count} steps; at most ${MAX_VALUES}: take a longer step or fewer days`,
    },
    series && days > 7 && { path: ["series"], message: "flows at each step are given for at most seven days" },
    (
      [
        ["sunW", sunW],
        ["houseW", houseW],
      ] as const
    ).flatMap(([name, values]) =>
      values && values.length !== count
        ? [{ path: [name], message: `${values.length} values for ${count} steps` }]
        : [],
    ),
    orders.flatMap((order, at) =>
      new Set(order).size === order.length ? [] : [{ path: ["orders", at], message: "each stands once" }],
    ),
  );
}
