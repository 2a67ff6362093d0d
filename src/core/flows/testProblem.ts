import { atMeanMoments, momentSpreadW } from "@/core/flows/moments";
import { candidateFaults, type CandidateFault } from "@/core/flows/faults";
import { inputOf } from "@/core/flows/fitting";
import { stepPowers } from "@/core/flows/powerModel";
import { siteResponses, type SiteResponses } from "@/core/flows/responses";
import { defaultBackground, type Background, type TestSheet } from "@/core/flows/testSheetSchema";
import type { SeenStep } from "@/core/flows/factoredStep";
import type { Site } from "@/core/site/planSchema";

/** A test sheet worked out against its site: how every window answers, and what was believed and seen in each step. */
export interface TestProblem {
  readonly site: Site;
  readonly sheet: TestSheet;
  readonly background: readonly Background[];
  readonly responses: SiteResponses;
  readonly candidates: readonly CandidateFault[];
  readonly seen: readonly SeenStep[];
  /** Latents of the background that is the same in every step. */
  readonly lastingCount: number;
  /** Input slots in plan order. */
  readonly inputs: readonly { readonly meter: string; readonly input: number }[];
}

/** A display in kW with one decimal shows whole hundreds: what it rounds away is noise, W. */
const COARSE_W = 100;
const FEWEST_COARSE = 4;

/** The sheet with the noise that its displays have at least: of readings in whole hundreds that of their rounding. */
function withDisplayNoise(sheet: TestSheet): TestSheet {
  const readings = sheet.steps.flatMap((step) => step.readings);
  const isCoarse = readings.length >= FEWEST_COARSE && readings.every(({ powerW }) => powerW % COARSE_W === 0);
  const roundingW = COARSE_W / Math.sqrt(12);
  return isCoarse && sheet.noise.absoluteW < roundingW
    ? { ...sheet, noise: { ...sheet.noise, absoluteW: roundingW } }
    : sheet;
}

/** Work a test sheet out against its site; both must be valid. */
export function testProblem(site: Site, given: TestSheet): TestProblem {
  const sheet = atMeanMoments(withDisplayNoise(given));
  const background = sheet.background ?? defaultBackground(site);
  const perPhase = new Set(background.map((load) => load.node));
  for (const step of sheet.steps) for (const device of step.devices) if (device.perPhase) perPhase.add(device.node);
  const responses = siteResponses(site, perPhase);
  const inputs = site.meters.flatMap((meter) => meter.inputs.map((input) => ({ meter: meter.id, input: input.n })));
  const slotOf = new Map(inputs.map((input, slot) => [JSON.stringify([input.meter, input.input]), slot]));
  const seen = sheet.steps.map((step, at): SeenStep => ({
    extraSdW: momentSpreadW(site, given.steps[at]!),
    powers: stepPowers(responses, background, step.devices),
    slots: step.readings.map((reading) => {
      inputOf(site, reading);
      return slotOf.get(JSON.stringify([reading.meter, reading.input]))!;
    }),
    readingsW: step.readings.map((reading) => reading.powerW),
  }));
  const lastingCount = stepPowers(responses, background, []).lasting.length;
  return { site, sheet, background, responses, candidates: candidateFaults(site), seen, lastingCount, inputs };
}
