import { answered, errorResponse } from "@/app/api/respond";
import { restoreJob } from "@/db/job";

export function POST(_: Request, { params }: { params: Promise<{ jobId: string }> }): Promise<Response> {
  return answered(async () =>
    (await restoreJob((await params).jobId))
      ? new Response(null, { status: 204 })
      : errorResponse("not-found", "There is no deleted job of this id."),
  );
}
