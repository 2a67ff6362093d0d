import { answered, errorResponse, jsonResponse } from "@/app/api/respond";
import { logOfJob } from "@/app/library/logOfJob";

export function GET(_: Request, { params }: { params: Promise<{ jobId: string }> }): Promise<Response> {
  return answered(async () => {
    const lines = await logOfJob((await params).jobId);
    if (!lines) return errorResponse("not-found", "There is no such job, or it was deleted.");
    return jsonResponse({ lines }, { headers: { "content-disposition": 'attachment; filename="log.json"' } });
  });
}
