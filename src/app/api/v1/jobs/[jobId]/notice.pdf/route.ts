import { reportQuerySchema } from "@/app/api/reportQuery";
import { noticeResponse } from "@/app/api/report";
import { errorResponse } from "@/app/api/respond";
import { withJob, type JobContext } from "@/app/api/v1/jobs/withJob";
import { problemsOf } from "@/core/problem";

/** The notice to the grid operator, filled with the values of the job. */
export function GET(request: Request, context: JobContext): Promise<Response> {
  const asked = Object.fromEntries(new URL(request.url).searchParams);
  const query = reportQuerySchema.pick({ paper: true }).safeParse(asked);
  return withJob(context, (job) =>
    query.success
      ? noticeResponse(request, job, query.data.paper)
      : errorResponse("invalid", "The notice cannot be made so.", problemsOf(query.error).problems),
  );
}
