import { createdFrom } from "@/app/api/createdJob";
import { withJob, type JobContext } from "@/app/api/v1/jobs/withJob";
import { markedCopy } from "@/core/job/copyMark";
import { copyOfJob, nameWithoutCopy } from "@/core/job/copyOfJob";
import { manyNamesLike } from "@/db/job";

/** A copy under a name that is free, marked as one. */
export function POST(request: Request, context: JobContext): Promise<Response> {
  return withJob(context, async (job) => {
    const names = await manyNamesLike(nameWithoutCopy(job.document.job.name));
    const copy = copyOfJob(job.document, names);
    return createdFrom(request, markedCopy(copy, "duplicate", new Date().toISOString()), `copy of ${job.id}`);
  });
}
