import type { JobDocument } from "@/core/job/jobDocument";
import { ratioText, windowText } from "@/core/job/placeFindings";
import { resolve } from "@/core/plan/resolve";
import type { PlanInput } from "@/core/plan/resolvedPlan";
import { arrowWords } from "@/core/site/arrowWords";
import { inputTag } from "@/core/site/inputTag";
import type { Site } from "@/core/site/planSchema";
import { nodeName, siteTree } from "@/core/site/tree";

/** What a label is on. */
export type LabelKind = "clamp" | "leads" | "breaker" | "invert";

/** One printed label. Its QR code holds `text`. */
export interface Label {
  readonly id: string;
  readonly kind: LabelKind;
  /** The largest thing on it. */
  readonly title: string;
  readonly lines: readonly string[];
  readonly text: string;
}

/**
 * The labels of a site: one on every CT, one on its leads at the meter, one on the breaker of the run that it is
 * round, one on every invert setting that is used. They say what is fitted; an input without a CT gets what is
 * planned.
 *
 * For example: The CT of A1: "A1", "CT round L1 of Main board", "arrow toward the loads", "100 A : 0.333 V", "Grid
 * meter, input 1", date.
 *
 * @param date As printed, for example "2026-11-25".
 */
export function labels(
  { job, ...parts }: Pick<JobDocument, "site" | "kits" | "links" | "job">,
  date: string,
): readonly Label[] {
  const { site, inputs: setups } = resolve(parts);
  return [
    ...setups
      .filter(({ input }) => !input.builtIn)
      .flatMap((setup) => [clampLabel(site, setup, date, job.name), leadsLabel(site, setup, date, job.name)]),
    ...breakerLabels(site, setups, date, job.name),
    ...setups.filter(({ input }) => input.invert).map((setup) => invertLabel(site, setup, date, job.name)),
  ];
}

function clampLabel(site: Site, { meter, input, clamp: ct }: PlanInput, date: string, job: string): Label {
  const tag = inputTag(site, meter.id, input.n);
  return label(
    "clamp",
    tag,
    tag,
    [
      `CT round ${windowText(site, ct?.around ?? input.measures)}`,
      `Arrow ${arrowWords(ct?.arrow ?? input.arrow)}`,
      ratioText(ct ?? { primaryA: input.primaryA, secondary: input.secondary, turns: input.clamp?.turns ?? 1 }),
      `${meter.name}, input ${input.n}`,
    ],
    date,
    job,
  );
}

function leadsLabel(site: Site, { meter, input, kitInput, clamp: ct }: PlanInput, date: string, job: string): Label {
  const tag = inputTag(site, meter.id, input.n);
  const isSwapped = ct?.leads === "swapped";
  return label(
    "leads",
    tag,
    `${tag} leads`,
    [
      `To ${meter.name}, input ${input.n}${kitInput?.label ? ` (${kitInput.label})` : ""}`,
      isSwapped ? "Leads swapped at the meter" : "Leads straight",
      `From the CT round ${windowText(site, ct?.around ?? input.measures)}`,
      "Open only with the CT off its conductor",
    ],
    date,
    job,
  );
}

function breakerLabels(site: Site, setups: readonly PlanInput[], date: string, job: string): readonly Label[] {
  const runs = new Map<string, string[]>();
  for (const { meter, input, clamp } of setups) {
    const around = clamp?.around ?? input.measures;
    for (const { run, conductor } of around)
      runs.set(run, [...(runs.get(run) ?? []), `${inputTag(site, meter.id, input.n)} on ${conductor}`]);
  }
  return [...runs].map(([run, tags]) => {
    const node = siteTree(site).nodeById.get(run);
    return label(
      "breaker",
      run,
      nodeName(site, run),
      [
        `Breaker of the circuit of ${nodeName(site, run)}${node?.fuseA ? `, ${node.fuseA} A` : ""}`,
        `Measured by ${tags.join(", ")}`,
      ],
      date,
      job,
    );
  });
}

function invertLabel(site: Site, { meter, input }: PlanInput, date: string, job: string): Label {
  const tag = inputTag(site, meter.id, input.n);
  return label(
    "invert",
    tag,
    `${tag} inverted`,
    [
      `Sign of ${meter.name}, input ${input.n}, is inverted by a setting`,
      "Turning the CT, or a new meter, makes it wrong again",
    ],
    date,
    job,
  );
}

function label(kind: LabelKind, of: string, title: string, body: readonly string[], date: string, job: string): Label {
  const lines = [...body, date];
  return { id: `${kind}:${of}`, kind, title, lines, text: [title, ...lines, job].join("\n") };
}
