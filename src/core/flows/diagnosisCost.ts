import { candidateFaults } from "@/core/flows/faults";
import { combinationCount } from "@/core/flows/hypotheses";
import { defaultBackground, type TestSheet } from "@/core/flows/testSheetSchema";
import type { Site } from "@/core/site/planSchema";

/** Measured on one usual core: so many of the products below take a millisecond. */
const PRODUCTS_A_MS = 3_200;

/**
 * About how long a diagnosis takes, ms: combinations of faults × (readings + inputs) × (lasting loads + 2)^1.5. Never
 * far too little; several times too much where combinations read alike, since those are looked at once.
 *
 * @example Three inputs, one load, twelve readings, 4006 combinations: 98.
 */
export function diagnosisCostMs(site: Site, sheet: Pick<TestSheet, "steps" | "background" | "maxFaults">): number {
  return scoringCostMs(site, sheet, combinationCount(candidateFaults(site).length, sheet.maxFaults));
}

/** The same for so many explanations that read differently, once they are known. */
export function scoringCostMs(
  site: Site,
  { steps, background }: Pick<TestSheet, "steps" | "background">,
  explanations: number,
): number {
  const inputs = site.meters.reduce((sum, meter) => sum + meter.inputs.length, 0);
  const lasting = (background ?? defaultBackground(site)).length;
  const readings = steps.reduce((sum, step) => sum + step.readings.length, 0);
  return (explanations * (readings + inputs) * (lasting + 2) ** 1.5) / PRODUCTS_A_MS;
}
