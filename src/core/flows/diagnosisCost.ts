import { candidateFaults } from "@/core/flows/faults";
import { combinationCount } from "@/core/flows/hypotheses";
import { defaultBackground, type TestSheet } from "@/core/flows/testSheetSchema";
import type { Site } from "@/core/site/planSchema";

/** Measured on one usual core: so many of the products below take a millisecond. */
const PRODUCTS_A_MS = 3_200;
const TEST_PRODUCTS_A_MS = 2_800;
/** Explanations that the next tests are weighed against, at most. */
const MAX_WEIGHED = 24;

/**
 * About how long a diagnosis takes, ms: combinations of faults × (readings + inputs) × (lasting loads + 2)^1.5. Never
 * far too little; several times too much where combinations read alike, since those are looked at once.
 *
 * For example: Three inputs, one load, twelve readings, 4006 combinations: 98.
 */
export function diagnosisCostMs(site: Site, sheet: Pick<TestSheet, "steps" | "background" | "maxFaults">): number {
  const combinations = combinationCount(candidateFaults(site).length, sheet.maxFaults);
  return scoringCostMs(site, sheet, combinations) + nextTestsCostMs(site, sheet, combinations);
}

/** About how long it takes to say what to switch on next: devices × explanations weighed × inputs × lasting loads². */
function nextTestsCostMs(site: Site, sheet: Pick<TestSheet, "background">, explanations: number): number {
  const weighed = Math.min(MAX_WEIGHED, explanations);
  return (site.nodes.length * weighed * inputCount(site) * lastingCount(site, sheet) ** 2) / TEST_PRODUCTS_A_MS;
}

/** The same for so many explanations that read differently, once they are known. */
export function scoringCostMs(
  site: Site,
  { steps, background }: Pick<TestSheet, "steps" | "background">,
  explanations: number,
): number {
  const lasting = lastingCount(site, { background });
  const readings = steps.reduce((sum, step) => sum + step.readings.length, 0);
  return (explanations * (readings + inputCount(site)) * (lasting + 2) ** 1.5) / PRODUCTS_A_MS;
}

function inputCount(site: Site): number {
  return site.meters.reduce((sum, meter) => sum + meter.inputs.length, 0);
}

function lastingCount(site: Site, { background }: Pick<TestSheet, "background">): number {
  return (background ?? defaultBackground(site)).length;
}
