import { z } from "zod";
import { signatureSchema } from "@/core/handover/version/signature";
import { storedJobSchema } from "@/core/job/storedJob";
import { personSchema } from "@/core/visit/visitEntry";

/** A hand over as a bundle holds it, beside the text of its report. */
export const keptVersionSchema = z.strictObject({
  id: z.uuid(),
  number: z.int().min(1),
  at: z.iso.datetime(),
  person: personSchema,
  state: z.string().max(60),
  revision: z.int(),
  sha256: z.string(),
  signatures: z.array(signatureSchema).max(2),
  document: storedJobSchema,
});

/** A hand over as a bundle holds it. */
export type KeptVersion = z.output<typeof keptVersionSchema>;
