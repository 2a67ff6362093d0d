import { jsonResponse } from "@/app/api/respond";
import { withJob, type JobContext } from "@/app/api/v1/jobs/withJob";
import { logOfJob } from "@/app/library/logOfJob";

export function GET(_: Request, context: JobContext): Promise<Response> {
  return withJob(context, async (job) => {
    const lines = await logOfJob(job);
    return jsonResponse({ lines }, { headers: { "content-disposition": 'attachment; filename="log.json"' } });
  });
}
