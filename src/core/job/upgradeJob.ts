import { presentPatternId } from "@/core/job/patternId";
import { likelyHost, possibleHosts } from "@/core/site/meterHost";
import type { Meter, Site } from "@/core/site/planSchema";

const FIRST_VERSION = 1;
const SECOND_VERSION = 2;

export interface Upgrade {
  /** Of this version of the format, where it could be read as one of an earlier version; else as it was. */
  readonly document: unknown;
  /** What could not be told from the document, for a person to answer. */
  readonly questions: readonly string[];
}

/**
 * A job of an earlier version of the format, brought to this one. From the second version on the plan says which device
 * a meter is a part of (`partOf`); before, that was guessed from equal kits. Where just one device can be meant it is
 * written down; where several can, it is left open, asked for, and found in the plan. Anything else passes as it is:
 * what is wrong with it is for the schema to say.
 *
 * @example upgradeJob({ format: "gormit-job", version: 1, … }).document // { …, version: 2, … }
 */
export function upgradeJob(raw: unknown): Upgrade {
  return withPartOf(withPatternOfNow(raw));
}

/** The pattern that a job was made from, by the name that it has now. */
function withPatternOfNow(raw: unknown): unknown {
  if (!isRecord(raw) || !isRecord(raw.job) || typeof raw.job.pattern !== "string") return raw;
  const pattern = presentPatternId(raw.job.pattern);
  return pattern === raw.job.pattern ? raw : { ...raw, job: { ...raw.job, pattern } };
}

function withPartOf(raw: unknown): Upgrade {
  if (!isRecord(raw) || raw.version !== FIRST_VERSION) return { document: raw, questions: [] };
  const { site } = raw;
  if (!isRecord(site) || !isListOfRecords(site.meters ?? []) || !isListOfRecords(site.nodes))
    return { document: { ...raw, version: SECOND_VERSION }, questions: [] };
  // Not checked any further: both functions only compare kits and places.
  const plan = { ...site, meters: site.meters ?? [] } as unknown as Site;
  const questions: string[] = [];
  const meters = plan.meters.map((meter): Meter => {
    if (possibleHosts(plan, meter).length === 0) return meter;
    const host = likelyHost(plan, meter);
    if (host === undefined)
      questions.push(`Which device is the meter "${meter.name}" a part of, or is it a unit by itself?`);
    return host === undefined ? meter : { ...meter, partOf: host };
  });
  return {
    document: { ...raw, version: SECOND_VERSION, site: site.meters === undefined ? site : { ...site, meters } },
    questions,
  };
}

function isRecord(value: unknown): value is Record<string, unknown> {
  return typeof value === "object" && value !== null && !Array.isArray(value);
}

function isListOfRecords(value: unknown): value is readonly Record<string, unknown>[] {
  return Array.isArray(value) && value.every(isRecord);
}
