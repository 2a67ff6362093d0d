import { withJob, type JobContext } from "@/app/api/v1/jobs/withJob";
import { today } from "@/app/library/dateOf";
import { printResponse } from "@/app/threads/printThreads";

export function GET(request: Request, context: JobContext): Promise<Response> {
  return withJob(context, (job) => {
    return printResponse(request, { name: "wiring", input: { document: job.document, printed: today() } });
  });
}
