import { errorResponse } from "@/app/api/respond";
import type { BenchSpec } from "@/bench/message";
import { benchOfJob } from "@/core/bench/benchOfJob";
import { actKey } from "@/core/bench/deviceActs";
import { benchProblems, type BenchRequest } from "@/core/bench/benchSchema";
import { benchSite } from "@/core/bench/benchSite";
import type { JobDocument } from "@/core/job/jobDocument";
import type { Job } from "@/db/job";

/** What the process of a job's bench has to know. */
export function specOfJob({ document, revision }: Job, id: string, request: BenchRequest): BenchSpec {
  return {
    id,
    jobRevision: revision,
    site: document.site,
    request,
    noise: document.tests.noise,
    limitW: document.limit.powerW,
    ...benchOfJob(document),
  };
}

/** What in faults and state does not fit the job, as an answer; undefined where all of it does. */
export function benchProblemAnswer(
  document: JobDocument,
  asked: Parameters<typeof benchProblems>[0],
  under: readonly string[] = [],
): Response | undefined {
  const { lines, online, acts } = benchOfJob(document);
  const problems = benchProblems(asked, {
    site: document.site,
    links: lines.map(({ link }) => ({ id: link })),
    onlineIds: online.map(({ device }) => device),
    actKeys: acts.map(actKey),
    deviceIds: lines.flatMap(({ units }) => units.map(({ device }) => device)),
  });
  if (problems.length > 0)
    return errorResponse(
      "invalid",
      "The bench cannot do that.",
      problems.map(({ path, message }) => ({ path: [...under, ...path], message })),
    );
  if (asked.faults && !benchSite(document.site, "planned", asked.faults))
    return errorResponse(
      "cannot-compute",
      "These faults cannot be there together: a CT would be where no conductor is.",
    );
  return undefined;
}
