import { z } from "zod";
import { diversionRequestSchema } from "@/core/simulation/diversionSchema";

const shape = diversionRequestSchema.shape;

/** What of sun, house and surplus cannot be derived from the plan. */
export const divertSettingsSchema = z.object({
  place: shape.place,
  fields: shape.fields,
  cloudiness: shape.cloudiness,
  seed: shape.seed,
  house: shape.house,
  firstDay: shape.firstDay,
  battery: shape.battery,
  heater: shape.heater,
  vehicle: shape.vehicle,
  tariff: shape.tariff,
  /** The order that is meant to be set. */
  order: z
    .array(z.enum(["battery", "heater", "vehicle"]))
    .max(3)
    .optional(),
  /** What the battery holds the grid at and how fast, and the same of the heater. */
  batterySpeedPerS: z.number().positive().max(20).default(0.5),
  heaterSpeedPerS: z.number().positive().max(20).default(0.5),
});

export type DivertSettings = z.output<typeof divertSettingsSchema>;
