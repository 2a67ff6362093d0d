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

/** Work a test sheet out against its site; both must be valid. */
export function testProblem(site: Site, sheet: TestSheet): TestProblem {
  const background = sheet.background ?? defaultBackground(site);
  const perPhase = new Set(background.map((load) => load.node));
  for (const step of sheet.steps) for (const device of step.devices) if (device.perPhase) perPhase.add(device.node);
  const responses = siteResponses(site, perPhase);
  const inputs = site.meters.flatMap((meter) => meter.inputs.map((input) => ({ meter: meter.id, input: input.n })));
  const slotOf = new Map(inputs.map((input, slot) => [JSON.stringify([input.meter, input.input]), slot]));
  const seen = sheet.steps.map((step): SeenStep => ({
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
