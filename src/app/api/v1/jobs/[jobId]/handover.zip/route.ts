import { bundleOf } from "@/app/api/bundle";
import { withJob, type JobContext } from "@/app/api/v1/jobs/withJob";

/** Everything of a job as one zip: report, job, log, photographs, hand overs and tables, each with its fingerprint. */
export function GET(request: Request, context: JobContext): Promise<Response> {
  return withJob(context, (job) => bundleOf(request, job));
}
