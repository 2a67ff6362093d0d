import { reportResponse } from "@/app/api/report";
import { withJob, type JobContext } from "@/app/api/v1/jobs/withJob";

/** The same as data, with its fingerprint. */
export function GET(request: Request, context: JobContext): Promise<Response> {
  return withJob(context, (job) => reportResponse(request, job, "data"));
}
