import { z } from "zod";
import { idSchema } from "@/core/names";
import { text } from "@/core/text";

const wordsSchema = text().trim().min(1).max(300);

/** What a registration can ask for. */
export const NEED_IDS = ["serial", "installed-on", "photo", "consent", "owner-contact", "limit-proof"] as const;

/** One registration that a kit asks for: who does it, where it goes, what it needs, by when, and what is lost. */
const kitRegistrationSchema = z.strictObject({
  id: idSchema.describe("Tells it from the kit's others"),
  what: wordsSchema.describe("What is registered"),
  by: z.enum(["owner", "installer"]).describe("Who does it"),
  receiver: z.enum(["maker", "operator", "owner-account"]).describe("Where it goes"),
  needs: z.array(z.enum(NEED_IDS)).max(NEED_IDS.length).default([]).describe("What it needs"),
  withinDays: z.int().min(0).max(3650).optional().describe("Days from the installation; left out where none are set"),
  lost: wordsSchema.optional().describe("What is lost when it is late"),
});

/** The registrations of a kit. */
export const kitRegistrationsSchema = z.array(kitRegistrationSchema).max(8);

/** One registration that a kit asks for. */
export type KitRegistration = z.output<typeof kitRegistrationSchema>;
