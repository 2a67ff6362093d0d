import { answerBy, errorResponse, parseBody, PRIVATE } from "@/app/api/respond";
import { liveStream } from "@/app/api/liveStream";
import { withJob, type JobContext } from "@/app/api/v1/jobs/withJob";
import { liveConnectSchema, liveLinkSchema, liveSchema } from "@/core/live/liveSchema";
import { resolve } from "@/core/plan/resolve";
import { readerHost } from "@/reader/readerHost";

const STREAM = "text/event-stream";

/** What is read of a job's links now; as a stream of events for whoever accepts one. */
export function GET(request: Request, context: JobContext): Promise<Response> {
  return withJob(context, ({ id }) => {
    if (request.headers.get("accept") !== STREAM) return answerBy(liveSchema, { links: [...readerHost().links(id)] });
    return new Response(liveStream(id), { headers: { ...PRIVATE, "content-type": STREAM, "x-accel-buffering": "no" } });
  });
}

/** Read a link, in place of how it was read before. */
export function POST(request: Request, context: JobContext): Promise<Response> {
  return withJob(context, async ({ id, document }) => {
    const parsed = await parseBody(request, liveConnectSchema);
    if (parsed.kind === "refused") return parsed.response;
    const outcome = await readerHost().connect(id, resolve(document), document.kits, parsed.value);
    return "message" in outcome
      ? errorResponse("invalid", "This link cannot be read so.", [outcome])
      : answerBy(liveLinkSchema, outcome, { status: 201 });
  });
}
