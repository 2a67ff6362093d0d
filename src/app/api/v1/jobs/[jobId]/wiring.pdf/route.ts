import { answered, errorResponse } from "@/app/api/respond";
import { today } from "@/app/library/dateOf";
import { printResponse } from "@/app/threads/printThreads";
import { maybeJob } from "@/db/job";

export function GET(request: Request, { params }: { params: Promise<{ jobId: string }> }): Promise<Response> {
  return answered(async () => {
    const job = await maybeJob((await params).jobId);
    if (!job) return errorResponse("not-found", "There is no such job, or it was deleted.");
    return printResponse(request, { name: "wiring", input: { document: job.document, printed: today() } });
  });
}
