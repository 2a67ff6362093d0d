import { answered, errorResponse } from "@/app/api/respond";
import { copyOfJob } from "@/core/job/copyOfJob";
import { createJob, manyJobs, maybeJob } from "@/db/job";

export function POST(_: Request, { params }: { params: Promise<{ jobId: string }> }): Promise<Response> {
  return answered(async () => {
    const job = await maybeJob((await params).jobId);
    if (!job) return errorResponse("not-found", "There is no such job, or it was deleted.");
    const names = (await manyJobs()).map((line) => line.name);
    return Response.json(await createJob(copyOfJob(job.document, names)), { status: 201 });
  });
}
