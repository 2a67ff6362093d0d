import { z } from "zod";
import { text } from "@/core/text";
import { diversionRequestSchema } from "@/core/simulation/diversionSchema";

const shape = diversionRequestSchema.shape;

/** What of sun, house and surplus cannot be derived from the plan. */
export const divertSettingsSchema = z.object({
  place: shape.place.describe("Where it is"),
  fields: shape.fields.describe("Fields of modules"),
  cloudiness: shape.cloudiness.describe("From 0, clear, to 1, overcast"),
  seed: shape.seed.describe("Seed of sun and house"),
  house: shape.house.describe("What the house draws"),
  firstDay: shape.firstDay.describe("First day of the year, from 1"),
  battery: shape.battery.describe("The battery"),
  heater: shape.heater.describe("The water heater"),
  vehicle: shape.vehicle.describe("The vehicle"),
  tariff: shape.tariff.describe("What energy costs"),
  currency: text().trim().max(4, "at most 4 characters").default("").describe("Sign or code that stands at prices"),
  order: z
    .array(z.enum(["battery", "heater", "vehicle"]))
    .max(3)
    .optional()
    .describe("The order that is meant to be set"),
  batterySpeedPerS: z
    .number()
    .positive()
    .max(20)
    .default(0.5)
    .describe("What the battery holds the grid at and how fast, and the same of the heater"),
  heaterSpeedPerS: z.number().positive().max(20).default(0.5).describe("How fast the heater acts, 1/s"),
});

/** What is said of the surplus beside the plan. */
export type DivertSettings = z.output<typeof divertSettingsSchema>;
