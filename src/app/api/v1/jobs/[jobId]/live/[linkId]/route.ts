import { errorResponse } from "@/app/api/respond";
import { withJob } from "@/app/api/v1/jobs/withJob";
import { readerHost } from "@/reader/readerHost";

interface Context {
  readonly params: Promise<{ jobId: string; linkId: string }>;
}

/** Read a link no longer. */
export function DELETE(_: Request, context: Context): Promise<Response> {
  return withJob(context, async ({ id }) =>
    (await readerHost().disconnect(id, (await context.params).linkId))
      ? new Response(null, { status: 204 })
      : errorResponse("not-found", "This link is not read."),
  );
}
