import { reportResponse } from "@/app/api/report";
import { withJob, type JobContext } from "@/app/api/v1/jobs/withJob";

/** The report of a job, to print and to send. */
export function GET(request: Request, context: JobContext): Promise<Response> {
  return withJob(context, (job) => reportResponse(request, job, "pdf"));
}
