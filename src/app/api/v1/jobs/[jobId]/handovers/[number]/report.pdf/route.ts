import { reportQuerySchema } from "@/app/api/reportQuery";
import { errorResponse } from "@/app/api/respond";
import { withHandover, type HandoverContext } from "@/app/api/v1/jobs/withHandover";
import { printResponse } from "@/app/threads/printThreads";
import { problemsOf } from "@/core/problem";

/** The report of a hand over, word for word as it was, with its signatures. */
export function GET(request: Request, context: HandoverContext): Promise<Response> {
  const asked = Object.fromEntries(new URL(request.url).searchParams);
  const query = reportQuerySchema.pick({ paper: true }).safeParse(asked);
  return withHandover(context, ({ report, sha256: fingerprint, signatures, number }) =>
    query.success
      ? printResponse(request, {
          name: "handed-over",
          input: { report, fingerprint, number, signatures, paper: query.data.paper },
        })
      : errorResponse("invalid", "The report cannot be made so.", problemsOf(query.error).problems),
  );
}
