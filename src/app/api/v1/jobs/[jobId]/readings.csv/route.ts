import { withJob, type JobContext } from "@/app/api/v1/jobs/withJob";
import { csvResponse } from "@/app/library/csv";
import { JOB_CSVS } from "@/app/library/jobCsv";

/** Every reading of the job's test sheet, a row each. */
export function GET(_: Request, context: JobContext): Promise<Response> {
  return withJob(context, async (job) => csvResponse("readings", await JOB_CSVS.readings(job)));
}
