import { PRIVATE } from "@/app/api/respond";
import { withJob, type JobContext } from "@/app/api/v1/jobs/withJob";
import { LEFT_OUT } from "@/core/job/copyMark";
import { jobFileName } from "@/core/job/copyOfJob";

/** The job as a file, which says what it leaves out. */
export function GET(_: Request, context: JobContext): Promise<Response> {
  return withJob(context, (job) => {
    return new Response(`${JSON.stringify({ ...job.document, leavesOut: LEFT_OUT }, null, 2)}\n`, {
      headers: {
        ...PRIVATE,
        "content-type": "application/json; charset=utf-8",
        "content-disposition": `attachment; filename="${jobFileName(job.document)}"`,
      },
    });
  });
}
