import { z } from "zod";
import { answerBy, errorResponse } from "@/app/api/respond";
import { withJob } from "@/app/api/v1/jobs/withJob";
import { liveSamplesSchema } from "@/core/live/liveSchema";
import { problemsOf } from "@/core/problem";
import { readerHost } from "@/reader/readerHost";

interface Context {
  readonly params: Promise<{ jobId: string; linkId: string }>;
}

/** Every power that was read of a link since a moment: also what came while nobody listened. */
export function GET(request: Request, context: Context): Promise<Response> {
  return withJob(context, async ({ id }) => {
    const since = z.coerce
      .number({ error: "must be a number of milliseconds since 1970" })
      .min(0)
      .safeParse(new URL(request.url).searchParams.get("since") ?? "0");
    if (!since.success) {
      const { message, problems } = problemsOf(since.error);
      return errorResponse(
        "invalid",
        message,
        problems.map((problem) => ({ ...problem, path: ["since"] })),
      );
    }
    const samples = readerHost().samples(id, (await context.params).linkId, since.data);
    return samples
      ? answerBy(liveSamplesSchema, { samples: [...samples] })
      : errorResponse("not-found", "This link is not read.");
  });
}
