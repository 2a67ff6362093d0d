import { candidateFaults } from "@/core/flows/faults";
import { combinationCount } from "@/core/flows/hypotheses";
import { defaultBackground, type TestSheet } from "@/core/flows/testSheetSchema";
import type { Site } from "@/core/site/planSchema";

/** Measured on one usual core: so many of the products below take a millisecond. */
const PRODUCTS_A_MS = 3_200;

/**
 * About how long a diagnosis takes, ms: combinations of faults × steps × inputs × (lasting loads + 2)^1.5. Never far too
 * little; several times too much where combinations read alike, since those are looked at once.
 *
 * @example Three inputs, one load, four steps, 4006 combinations: 98.
 */
export function diagnosisCostMs(site: Site, { steps, background, maxFaults }: Pick<TestSheet, "steps" | "background" | "maxFaults">): number {
  const combinations = combinationCount(candidateFaults(site).length, maxFaults);
  const inputs = site.meters.reduce((sum, meter) => sum + meter.inputs.length, 0);
  const lasting = (background ?? defaultBackground(site)).length;
  return (combinations * (steps.length + 1) * inputs * (lasting + 2) ** 1.5) / PRODUCTS_A_MS;
}
