import { z } from "zod";

/** Whether an owner's link is there, and since when; its address is told once, when it is made. */
export const ownerLinkSchema = z.strictObject({
  madeAt: z.iso.datetime().nullable(),
  path: z.string().optional().describe("The page, told once"),
});

/** An owner's link. */
export type OwnerLink = z.output<typeof ownerLinkSchema>;
