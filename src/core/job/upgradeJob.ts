import { presentPatternId } from "@/core/job/patternId";
import { likelyHost, possibleHosts } from "@/core/site/meterHost";
import type { Meter, Site } from "@/core/site/planSchema";

/** Until then it was guessed from equal kits which device a meter is a part of. */
const BEFORE_PART_OF = 1;
/** Until then the settings of the visit stood under `run`. */
const BEFORE_VISIT = 2;

/** A document brought to this version, with what it could not tell. */
export interface Upgrade {
  /** Of this version of the format, where it could be read as one of an earlier version; else as it was. */
  readonly document: unknown;
  /** What could not be told from the document, for a person to answer. */
  readonly questions: readonly string[];
}

/**
 * A job of an earlier version of the format, brought to this one. From version 2 on the plan says which device a meter
 * is a part of (`partOf`); before, that was guessed from equal kits. Where just one device can be meant it is written
 * down; where several can, it is left open, asked for, and found in the plan. From version 3 on the settings of the
 * visit stand under `visit`. Anything else passes as it is: what is wrong with it is for the schema to say.
 *
 * @example upgradeJob({ version: 2, run: { technicians: 2 } }).document // { version: 3, visit: { technicians: 2 } }
 */
export function upgradeJob(raw: unknown): Upgrade {
  const { document, questions } = withPartOf(withPatternOfNow(raw));
  return { document: withVisit(document), questions };
}

function withVisit(raw: unknown): unknown {
  if (!isRecord(raw) || raw.version !== BEFORE_VISIT) return raw;
  const { run, ...rest } = raw;
  return { ...rest, version: BEFORE_VISIT + 1, ...(run === undefined ? {} : { visit: run }) };
}

/** The pattern that a job was made from, by the name that it has now. */
function withPatternOfNow(raw: unknown): unknown {
  if (!isRecord(raw) || !isRecord(raw.job) || typeof raw.job.pattern !== "string") return raw;
  const pattern = presentPatternId(raw.job.pattern);
  return pattern === raw.job.pattern ? raw : { ...raw, job: { ...raw.job, pattern } };
}

function withPartOf(raw: unknown): Upgrade {
  if (!isRecord(raw) || raw.version !== BEFORE_PART_OF) return { document: raw, questions: [] };
  const { site } = raw;
  if (!isRecord(site) || !isListOfRecords(site.meters ?? []) || !isListOfRecords(site.nodes))
    return { document: { ...raw, version: BEFORE_VISIT }, questions: [] };
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
    document: { ...raw, version: BEFORE_VISIT, site: site.meters === undefined ? site : { ...site, meters } },
    questions,
  };
}

function isRecord(value: unknown): value is Record<string, unknown> {
  return typeof value === "object" && value !== null && !Array.isArray(value);
}

function isListOfRecords(value: unknown): value is readonly Record<string, unknown>[] {
  return Array.isArray(value) && value.every(isRecord);
}
