import { answerBy, errorResponse, parseBody } from "@/app/api/respond";
import { withJob } from "@/app/api/v1/jobs/withJob";
import { listenedSchema, listenSchema } from "@/core/live/liveSchema";
import { resolve } from "@/core/plan/resolve";
import { readerHost } from "@/reader/readerHost";

interface Context {
  readonly params: Promise<{ jobId: string; linkId: string }>;
}

/** The bytes of a line for some seconds, while others talk on it; nothing is sent. */
export function POST(request: Request, context: Context): Promise<Response> {
  return withJob(context, async ({ document }) => {
    const parsed = await parseBody(request, listenSchema);
    if (parsed.kind === "refused") return parsed.response;
    const outcome = await readerHost().listen(resolve(document), (await context.params).linkId, parsed.value);
    return typeof outcome === "string"
      ? answerBy(listenedSchema, { text: outcome })
      : errorResponse("invalid", "This line cannot be heard.", [outcome]);
  });
}
