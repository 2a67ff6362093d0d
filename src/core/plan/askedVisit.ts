import { z } from "zod";
import { serviceReasonSchema, visitKindSchema, type ServiceReason, type VisitKind } from "@/core/plan/visitSettings";

/** A visit by its kind, or a service visit by what is wrong. */
export const askedVisitSchema = z
  .union([
    visitKindSchema,
    serviceReasonSchema,
    z.object({ kind: visitKindSchema, reason: serviceReasonSchema.optional() }),
  ])
  .describe("What the technician comes for");

type AskedVisit = z.output<typeof askedVisitSchema>;

/**
 * A visit that was asked for by one word.
 *
 * @example visitOf("router-changed") // { kind: "service", reason: "router-changed" }
 */
export function visitOf(asked: AskedVisit): { readonly kind: VisitKind; readonly reason: ServiceReason | undefined } {
  if (typeof asked === "object") return { kind: asked.kind, reason: asked.reason };
  const reason = serviceReasonSchema.safeParse(asked);
  return reason.success
    ? { kind: "service", reason: reason.data }
    : { kind: visitKindSchema.parse(asked), reason: undefined };
}
