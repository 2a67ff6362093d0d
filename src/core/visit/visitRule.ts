import type { VisitContext } from "@/core/visit/visitContext";
import type { StepDraft } from "@/core/visit/visitStep";

/** One rule of the run sheet: what it yields for a job. It yields nothing where it does not apply. */
export interface VisitRule {
  readonly id: string;
  readonly yields: (context: VisitContext) => readonly StepDraft[];
}
