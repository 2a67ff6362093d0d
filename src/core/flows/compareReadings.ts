import { predict, type FlowDirection } from "@/core/flows/predict";
import type { SiteState } from "@/core/flows/stateSchema";
import { readingTowardLoadW } from "@/core/site/flowWords";
import type { Site } from "@/core/site/planSchema";

/** A display in whole watts shows no smaller difference. */
const SAME_W = 0.5;

/** What an input should read and what it reads with the CTs as fitted. */
export interface ComparedReading {
  readonly meter: string;
  readonly input: number;
  /** The run whose flow it is about, for the word. */
  readonly run: string;
  readonly shouldW: number;
  readonly shouldTowardLoadW: number;
  /** Undefined where nothing can be predicted: the CT gives another kind of signal than the input takes. */
  readonly readsW: number | undefined;
  readonly readsTowardLoadW: number | undefined;
  readonly differs: boolean;
  readonly flow: FlowDirection;
}

/**
 * What every input reads as fitted beside what it should read as planned, in one state of the site.
 *
 * For example: A turned CT on 900 W of import: should 900, reads −900, differs.
 */
export function compareReadings(site: Site, state: SiteState): readonly ComparedReading[] {
  const fitted = predict(site, "fitted", state).inputs;
  return predict(site, "planned", state).inputs.map((should) => {
    const input = site.meters
      .find((meter) => meter.id === should.meter)!
      .inputs.find((candidate) => candidate.n === should.input)!;
    const reads = fitted.find((reading) => reading.meter === should.meter && reading.input === should.input);
    return {
      meter: should.meter,
      input: should.input,
      run: input.measures[0]!.run,
      flow: should.flow,
      shouldW: should.powerW,
      shouldTowardLoadW: readingTowardLoadW(input.positive, should.powerW),
      readsW: reads?.powerW,
      readsTowardLoadW: reads && readingTowardLoadW(input.positive, reads.powerW),
      differs: !reads || Math.abs(reads.powerW - should.powerW) > SAME_W,
    };
  });
}
