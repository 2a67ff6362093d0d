import { z } from "zod";
import { text } from "@/core/text";

const dateSchema = z.iso.date("a date is written 2026-11-25");

/** How one registration stands; its id is the device and the kit's registration, with a space between. */
const registrationStateSchema = z.object({
  id: text().min(1).max(200).describe("The device, and which of its kit's registrations"),
  has: z
    .array(z.enum(["consent", "owner-contact"]))
    .max(2)
    .default([])
    .describe("What somebody gave for it"),
  sentOn: dateSchema.optional().describe("Sent on"),
  confirmedOn: dateSchema.optional().describe("Confirmed on"),
  reference: text().trim().max(80, "at most 80 characters").default("").describe("Its reference"),
});

/** What is registered of a job. */
export const registrationSchema = z.object({
  installedOn: dateSchema.optional().describe("Day of the installation: from then on the days count"),
  items: z.array(registrationStateSchema).max(400).default([]).describe("How each registration stands"),
});

/** What is registered of a job. */
export type RegistrationRecord = z.output<typeof registrationSchema>;
/** How one registration stands. */
export type RegistrationState = z.output<typeof registrationStateSchema>;
