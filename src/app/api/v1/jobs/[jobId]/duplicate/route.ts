import { createdFrom } from "@/app/api/createdJob";
import { withJob, type JobContext } from "@/app/api/v1/jobs/withJob";
import { copyOfJob, nameWithoutCopy } from "@/core/job/copyOfJob";
import { manyNamesLike } from "@/db/job";

export function POST(request: Request, context: JobContext): Promise<Response> {
  return withJob(context, async (job) => {
    const names = await manyNamesLike(nameWithoutCopy(job.document.job.name));
    return createdFrom(request, copyOfJob(job.document, names), `copy of ${job.id}`);
  });
}
