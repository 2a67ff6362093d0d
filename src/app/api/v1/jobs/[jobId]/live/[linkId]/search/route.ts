import { errorResponse } from "@/app/api/respond";
import { withJob } from "@/app/api/v1/jobs/withJob";
import { readerHost } from "@/reader/readerHost";

interface Context {
  readonly params: Promise<{ jobId: string; linkId: string }>;
}

/** Begin to look which addresses answer, and at which speed; what is found comes with the link. Nothing is written. */
export function POST(_: Request, context: Context): Promise<Response> {
  return withJob(context, async ({ id }) =>
    readerHost().find(id, (await context.params).linkId)
      ? new Response(null, { status: 204 })
      : errorResponse("not-found", "This link is not read by Modbus."),
  );
}
