import { visitLog, type LogLine } from "@/core/procedure/visitLog";
import { maybeJob } from "@/db/job";
import { manyPlanChanges, manyRunEntries } from "@/db/runEntry";

/** The whole log of a job as lines; undefined when there is no such job. */
export async function logOfJob(jobId: string): Promise<readonly LogLine[] | undefined> {
  const job = await maybeJob(jobId);
  if (!job) return undefined;
  const [entries, changes] = await Promise.all([manyRunEntries(job.id), manyPlanChanges(job.id)]);
  return visitLog(entries, changes, job.document.accepted);
}
