import type { Phase } from "@/core/phase";
import type { ExportLimitRequest } from "@/core/simulation/exportLimitSchema";

const PHASES: readonly Phase[] = ["L1", "L2", "L3"];

/** @example phasesOfSystem("split-phase") // ["L1", "L2"] */
export function phasesOfSystem(system: ExportLimitRequest["system"]): readonly Phase[] {
  return PHASES.slice(0, system === "three-phase" ? 3 : system === "split-phase" ? 2 : 1);
}
