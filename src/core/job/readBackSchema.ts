import { z } from "zod";
import { REGISTER_QUANTITIES } from "@/core/kits/registerSchema";
import { idSchema } from "@/core/names";
import { text } from "@/core/text";

/** What a device said of itself when it was read back last, in the units of its kit. */
export const readBackSchema = z.object({
  id: idSchema.describe("The device"),
  at: z.iso.datetime().describe("When"),
  values: z
    .array(
      z.object({
        of: z.enum(REGISTER_QUANTITIES).describe("Which setting"),
        input: z.int().min(1).max(99).optional().describe("Of which input"),
        what: text().min(1).max(200).describe("In words"),
        value: z.number().describe("The value"),
        unit: text().min(1).max(12).describe("Unit of the value"),
      }),
    )
    .max(200)
    .describe("The settings"),
});
