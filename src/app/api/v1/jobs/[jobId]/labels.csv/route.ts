import { answered, errorResponse } from "@/app/api/respond";
import { csvResponse } from "@/app/library/csv";
import { today } from "@/app/library/dateOf";
import { labels } from "@/core/procedure/labels";
import { maybeJob } from "@/db/job";

export function GET(_: Request, { params }: { params: Promise<{ jobId: string }> }): Promise<Response> {
  return answered(async () => {
    const job = await maybeJob((await params).jobId);
    if (!job) return errorResponse("not-found", "There is no such job, or it was deleted.");
    const rows = labels(job.document, today()).map((label) => ({
      id: label.id,
      kind: label.kind,
      title: label.title,
      text: label.lines.join("; "),
    }));
    return csvResponse("labels", rows, ["id", "kind", "title", "text"]);
  });
}
