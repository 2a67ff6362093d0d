import { z } from "zod";

/** A kit of one's own that was kept, at a revision. */
export const savedKitSchema = z.object({ id: z.string(), revision: z.int() });
