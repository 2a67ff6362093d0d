import { withJob, type JobContext } from "@/app/api/v1/jobs/withJob";
import { csvResponse } from "@/app/library/csv";
import { JOB_CSVS } from "@/app/library/jobCsv";

export function GET(_: Request, context: JobContext): Promise<Response> {
  return withJob(context, async (job) => csvResponse("labels", await JOB_CSVS.labels(job)));
}
