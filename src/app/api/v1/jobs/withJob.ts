import { answered, errorResponse } from "@/app/api/respond";
import { maybeJob, type Job } from "@/db/job";

/** What Next.js hands to a route under a job. */
export interface JobContext {
  readonly params: Promise<{ jobId: string }>;
}

/** Answer about a job that is there; 404 where it is not. */
export function withJob({ params }: JobContext, answer: (job: Job) => Promise<Response> | Response): Promise<Response> {
  return answered(async () => {
    const job = await maybeJob((await params).jobId);
    return job ? answer(job) : noSuchJob();
  });
}

export function noSuchJob(): Response {
  return errorResponse("not-found", "There is no such job, or it was deleted.");
}
