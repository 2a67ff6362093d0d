import type { RunContext } from "@/core/procedure/runContext";
import type { StepDraft } from "@/core/procedure/runStep";

/** One rule of the run sheet: what it yields for a job. It yields nothing where it does not apply. */
export interface RunRule {
  readonly id: string;
  readonly yields: (context: RunContext) => readonly StepDraft[];
}
