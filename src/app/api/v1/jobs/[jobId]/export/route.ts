import { PRIVATE } from "@/app/api/respond";
import { withJob, type JobContext } from "@/app/api/v1/jobs/withJob";
import { jobFileName } from "@/core/job/copyOfJob";

export function GET(_: Request, context: JobContext): Promise<Response> {
  return withJob(context, (job) => {
    return new Response(`${JSON.stringify(job.document, null, 2)}\n`, {
      headers: {
        ...PRIVATE,
        "content-type": "application/json; charset=utf-8",
        "content-disposition": `attachment; filename="${jobFileName(job.document)}"`,
      },
    });
  });
}
