import { visitLog, type LogLine } from "@/core/visit/visitLog";
import type { Job } from "@/db/job";
import { manyPlanChanges, manyVisitEntries } from "@/db/visitEntry";

/** The whole log of a job as lines. */
export async function logOfJob(job: Job): Promise<readonly LogLine[]> {
  const [entries, changes] = await Promise.all([manyVisitEntries(job.id), manyPlanChanges(job.id)]);
  return visitLog(entries, changes, job.document.accepted);
}
