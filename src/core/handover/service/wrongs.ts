import type { FindingStage } from "@/core/findings";
import type { JobDocument } from "@/core/job/jobDocument";
import type { ServiceReason, VisitKind } from "@/core/plan/visitSettings";
import { nextVisit } from "@/core/visit/nextVisit";

/** What somebody comes back to a site for. */
export interface Wrong {
  readonly id: "reading-wrong" | "not-online" | "router-changed" | "exchanged" | "added";
  readonly name: string;
  readonly kind: VisitKind;
  readonly reason?: ServiceReason;
  /** Where it begins. */
  readonly stage: FindingStage;
  /** Whether the readings until now tell nothing any more of what is there. */
  readonly readsAgain: boolean;
}

/** What can be wrong with a site that was handed over, as it is said on the phone. A new one is a line here. */
export const WRONGS: readonly Wrong[] = [
  {
    id: "reading-wrong",
    name: "A reading looks wrong",
    kind: "service",
    reason: "reading-wrong",
    stage: "prove",
    readsAgain: true,
  },
  { id: "not-online", name: "Not online", kind: "service", reason: "not-online", stage: "online", readsAgain: false },
  {
    id: "router-changed",
    name: "Router or passphrase changed",
    kind: "service",
    reason: "router-changed",
    stage: "online",
    readsAgain: false,
  },
  { id: "exchanged", name: "A device is exchanged", kind: "exchange", stage: "plan", readsAgain: true },
  { id: "added", name: "Something is added", kind: "device-added", stage: "plan", readsAgain: true },
];

/**
 * The job at the beginning of a visit for what is wrong. The steps that were switched stay, to be switched again; what
 * was read in them is taken out where it is kept in a hand over, so that what is read now is judged alone.
 *
 * For example: of a reading that looks wrong: a service visit, the same steps, no reading.
 *
 * @param begun `id` of the visit, when it begins (ISO 8601), and whether a hand over keeps what was read until now.
 */
export function beginService(
  document: JobDocument,
  { kind, reason, readsAgain }: Wrong,
  { id, at, isKept }: { readonly id: string; readonly at: string; readonly isKept: boolean },
): JobDocument {
  const visit = nextVisit(document.visit, id, kind, at, reason);
  if (!readsAgain || !isKept) return { ...document, visit };
  const steps = document.tests.steps.map((step) => ({ ...step, readings: [] }));
  return { ...document, visit, tests: { ...document.tests, steps } };
}
