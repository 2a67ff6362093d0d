import { z } from "zod";
import { text } from "@/core/text";

const dateSchema = z.iso.date("a date is written 2026-11-25");
const wordSchema = text().trim().max(60, "at most 60 characters").default("");

/** How a site goes over to its owner. Everything may be open. */
export const transferSchema = z.object({
  siteMadeOn: dateSchema.optional().describe("The site was made in the service on"),
  devicesInOn: dateSchema.optional().describe("All devices were in it on"),
  ownerContact: text().trim().max(120, "at most 120 characters").default("").describe("Where the owner is invited"),
  countryHere: wordSchema.describe("Country of the installer's account"),
  countryOwner: wordSchema.describe("Country of the owner's account"),
  dataRegion: wordSchema.describe("Region of the data, as the service calls it"),
  dataRegionOwner: wordSchema.describe("Region of the owner's account"),
  invitedOn: dateSchema.optional().describe("The owner was invited on"),
  invitationDays: z.int().min(1).max(90).default(14).describe("Days until the invitation lapses"),
  acceptedOn: dateSchema.optional().describe("The owner accepted on"),
  accessUntil: dateSchema.optional().describe("The installer's own access ends on"),
  accessEndedOn: dateSchema.optional().describe("The installer's own access was ended on"),
});

/** How a site goes over to its owner. */
export type TransferRecord = z.output<typeof transferSchema>;
