import { visitLog, type LogLine } from "@/core/procedure/visitLog";
import type { Job } from "@/db/job";
import { manyPlanChanges, manyRunEntries } from "@/db/runEntry";

/** The whole log of a job as lines. */
export async function logOfJob(job: Job): Promise<readonly LogLine[]> {
  const [entries, changes] = await Promise.all([manyRunEntries(job.id), manyPlanChanges(job.id)]);
  return visitLog(entries, changes, job.document.accepted);
}
