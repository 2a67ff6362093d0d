import { calendarResponse } from "@/app/api/calendar";
import { withJob, type JobContext } from "@/app/api/v1/jobs/withJob";
import { jobDeadlines } from "@/core/handover/jobDeadlines";

/** The open deadlines of a job as a calendar file. */
export function GET(_: Request, context: JobContext): Promise<Response> {
  return withJob(context, ({ id, document }) => {
    const about = { jobId: id, job: document.job.name };
    return calendarResponse(
      `Deadlines, ${document.job.name}`,
      jobDeadlines(document).map((own) => ({ ...own, ...about })),
    );
  });
}
