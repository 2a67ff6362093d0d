import { flowWord, readingTowardLoadW } from "@/core/site/flowWords";
import type { Site } from "@/core/site/planSchema";
import { powerText } from "@/core/units";

/**
 * What an input shows, with its way as a word.
 *
 * For example: -2100 W at an input of the supply that counts importing as positive: "-2.1 kW exporting".
 */
export function inputFlowText(site: Site, meter: string, n: number, powerW: number): string {
  const input = site.meters.find(({ id }) => id === meter)?.inputs.find((own) => own.n === n);
  const run = input?.measures[0]?.run;
  if (!input || run === undefined) return powerText(powerW);
  return `${powerText(powerW)} ${flowWord(site, run, readingTowardLoadW(input.positive, powerW))}`;
}
