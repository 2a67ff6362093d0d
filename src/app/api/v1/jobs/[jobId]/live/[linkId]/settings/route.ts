import { answerBy, errorResponse, parseBody } from "@/app/api/respond";
import { withJob } from "@/app/api/v1/jobs/withJob";
import { liveValueSchema, writeSettingSchema } from "@/core/live/liveSchema";
import { readerHost } from "@/reader/readerHost";

interface Context {
  readonly params: Promise<{ jobId: string; linkId: string }>;
}

/** Write one armed setting of a device, and read it back. */
export function POST(request: Request, context: Context): Promise<Response> {
  return withJob(context, async ({ id }) => {
    const parsed = await parseBody(request, writeSettingSchema);
    if (parsed.kind === "refused") return parsed.response;
    const { armed: _, ...setting } = parsed.value;
    const outcome = await readerHost().write(id, (await context.params).linkId, { input: undefined, ...setting });
    return outcome.kind === "written"
      ? answerBy(liveValueSchema, outcome.value)
      : errorResponse("cannot-compute", outcome.message);
  });
}
