import { answered, errorResponse, PRIVATE } from "@/app/api/respond";
import { jobFileName } from "@/core/job/copyOfJob";
import { maybeJob } from "@/db/job";

export function GET(_: Request, { params }: { params: Promise<{ jobId: string }> }): Promise<Response> {
  return answered(async () => {
    const job = await maybeJob((await params).jobId);
    if (!job) return errorResponse("not-found", "There is no such job, or it was deleted.");
    return new Response(`${JSON.stringify(job.document, null, 2)}\n`, {
      headers: {
        ...PRIVATE,
        "content-type": "application/json; charset=utf-8",
        "content-disposition": `attachment; filename="${jobFileName(job.document)}"`,
      },
    });
  });
}
