import { z } from "zod";

/** Whether a private link is there, and since when; its address is told once, when it is made. */
export const privateLinkSchema = z.strictObject({
  madeAt: z.iso.datetime().nullable(),
  path: z.string().optional().describe("The page, told once"),
});

/** A private link. */
export type PrivateLink = z.output<typeof privateLinkSchema>;
