import { withJob, type JobContext } from "@/app/api/v1/jobs/withJob";
import { csvResponse } from "@/app/library/csv";
import { today } from "@/app/library/dateOf";
import { labels } from "@/core/visit/labels";

export function GET(_: Request, context: JobContext): Promise<Response> {
  return withJob(context, (job) => {
    const rows = labels(job.document, today()).map((label) => ({
      id: label.id,
      kind: label.kind,
      title: label.title,
      text: label.lines.join("; "),
    }));
    return csvResponse("labels", rows, ["id", "kind", "title", "text"]);
  });
}
