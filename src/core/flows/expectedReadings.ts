import { choleskyInPlace, solveLowerInPlace, solveUpperInPlace } from "@/core/flows/cholesky";
import { fittingWith, type Diagnosis } from "@/core/flows/diagnose";
import { readingVariance } from "@/core/flows/stepTables";
import type { Fault } from "@/core/flows/faults";
import { inputOf, plannedFitting, type SiteFitting } from "@/core/flows/fitting";
import { inputSign } from "@/core/flows/inputFactors";
import { respond, type StepPowers } from "@/core/flows/powerModel";
import { testProblem, type TestProblem } from "@/core/flows/testProblem";
import type { TestSheet } from "@/core/flows/testSheetSchema";
import type { Site } from "@/core/site/planSchema";

/** Two standard deviations: about 19 of 20 right readings fall inside. */
const BAND_SDS = 2;

/** What one input should read in one step, were the fitting as planned. */
export interface ExpectedReading {
  readonly meter: string;
  readonly input: number;
  readonly meanW: number;
  /** Half-width of the band that the unknown background, tolerances and noise allow. */
  readonly bandW: number;
}

/**
 * What every input should read in every step, with its band. When `explainedBy` is given, the readings so
 * far, taken with the faults that explain them, narrow the background, so that the band shrinks from
 * "anything a house draws" to what was really there; else the band is that of the prior.
 *
 * Latents z ~ N(0, I): the lasting background once and the passing ones of every step. Under the
 * explaining fitting y = m + A z + noise, so z | y is Gaussian with precision I + Aᵀ Σ⁻¹ A.
 *
 * For example: A 2200 ± 110 W kettle on a background of 400 ± 500 W: should 2600 ± 1030 W before any reading.
 */
export function expectedReadings(
  site: Site,
  sheet: TestSheet,
  explainedBy: readonly Fault[] | undefined,
): readonly (readonly ExpectedReading[])[] {
  const problem = testProblem(site, sheet);
  const latents = latentLayout(problem);
  const belief = explainedBy
    ? updated(problem, latents, fittingWith(site, explainedBy))
    : { mean: new Float64Array(latents.count), factor: new Float64Array() };
  const rows = fittedRows(problem, plannedFitting(site));
  return problem.seen.map((step, at) =>
    problem.inputs.map((input, slot): ExpectedReading => {
      const row = rows[slot]!;
      const response = latentResponse(row, step.powers, latents, at);
      const meanW = respond(row, step.powers.mean) + dot(response, belief.mean);
      // Before anything is known the latents are independent: there is nothing to solve.
      if (explainedBy) solveLowerInPlace(belief.factor, latents.count, response, 1);
      const spreadW = step.extraSdW?.[step.slots.indexOf(slot)] ?? 0;
      const variance = dot(response, response) + readingVariance(problem.sheet.noise, meanW) + spreadW ** 2;
      return { ...input, meanW, bandW: BAND_SDS * Math.sqrt(variance) };
    }),
  );
}

/** The faults that a diagnosis is sure of, to narrow the bands by; undefined while it is not. */
export function sureFaults(
  diagnosis: Pick<Diagnosis, "verdict" | "hypotheses"> | undefined,
): readonly Fault[] | undefined {
  const isSure = diagnosis?.verdict === "as-planned" || diagnosis?.verdict === "faults-found";
  return isSure ? diagnosis.hypotheses[0]?.faults : undefined;
}

/** Where each step's passing latents stand behind the lasting ones. */
interface LatentLayout {
  readonly count: number;
  readonly lasting: number;
  readonly offsets: readonly number[];
}

/** Gaussian belief about the latents: mean, and the lower factor of the precision. */
interface LatentBelief {
  readonly mean: Float64Array;
  readonly factor: Float64Array;
}

function latentLayout({ seen, lastingCount: lasting }: TestProblem): LatentLayout {
  const offsets: number[] = [];
  let count = lasting;
  for (const step of seen) {
    offsets.push(count);
    count += step.powers.passing.length;
  }
  return { count, lasting, offsets };
}

function prior(count: number): LatentBelief {
  const factor = new Float64Array(count * count);
  for (let at = 0; at < count; at++) factor[at * count + at] = 1;
  return { mean: new Float64Array(count), factor };
}

function updated(problem: TestProblem, latents: LatentLayout, fitting: SiteFitting): LatentBelief {
  const { count } = latents;
  const { mean, factor } = prior(count);
  const rows = fittedRows(problem, fitting);
  problem.seen.forEach((step, at) =>
    step.slots.forEach((slot, index) => {
      const readingW = step.readingsW[index]!;
      const row = rows[slot]!;
      const response = latentResponse(row, step.powers, latents, at);
      const variance = readingVariance(problem.sheet.noise, readingW) + (step.extraSdW?.[index] ?? 0) ** 2;
      const residual = readingW - respond(row, step.powers.mean);
      for (let i = 0; i < count; i++) {
        if (response[i] === 0) continue;
        mean[i]! += (response[i]! * residual) / variance;
        for (let j = 0; j <= i; j++) factor[i * count + j]! += (response[i]! * response[j]!) / variance;
      }
    }),
  );
  choleskyInPlace(factor, count);
  solveLowerInPlace(factor, count, mean, 1);
  solveUpperInPlace(factor, count, mean, 1);
  return { mean, factor };
}

/** The signed response row of every input slot under a fitting. */
function fittedRows({ site, responses }: TestProblem, fitting: SiteFitting): readonly Float64Array[] {
  return fitting.inputs.map((fitted) => {
    const { input } = inputOf(site, fitted);
    const tapPhase = fitting.taps.get(fitted.meter)?.[input.tap];
    if (!tapPhase) throw new Error(`fittedRows: "${fitted.meter}" has no tap "${input.tap}"`);
    const sign = inputSign(input, { arrow: input.arrow, leads: "straight" }) * (fitted.reversed ? -1 : 1);
    return responses.row(fitted.around, tapPhase).map((part) => part * sign * fitted.gain);
  });
}

function latentResponse(row: Float64Array, powers: StepPowers, latents: LatentLayout, step: number): Float64Array {
  const response = new Float64Array(latents.count);
  powers.lasting.forEach((direction, at) => {
    response[at] = respond(row, direction);
  });
  powers.passing.forEach((direction, at) => {
    response[latents.offsets[step]! + at] = respond(row, direction);
  });
  return response;
}

function dot(a: Float64Array, b: Float64Array): number {
  let sum = 0;
  for (let at = 0; at < a.length; at++) sum += a[at]! * b[at]!;
  return sum;
}
