import { createdFrom } from "@/app/api/createdJob";
import { answered, errorResponse } from "@/app/api/respond";
import { copyOfJob, nameWithoutCopy } from "@/core/job/copyOfJob";
import { maybeJob, manyNamesLike } from "@/db/job";

export function POST(request: Request, { params }: { params: Promise<{ jobId: string }> }): Promise<Response> {
  return answered(async () => {
    const job = await maybeJob((await params).jobId);
    if (!job) return errorResponse("not-found", "There is no such job, or it was deleted.");
    const names = await manyNamesLike(nameWithoutCopy(job.document.job.name));
    return createdFrom(request, copyOfJob(job.document, names), `copy of ${job.id}`);
  });
}
