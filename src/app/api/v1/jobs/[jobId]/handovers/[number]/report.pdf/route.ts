import { picturesOf } from "@/app/api/report";
import { reportQuerySchema } from "@/app/api/reportQuery";
import { errorResponse } from "@/app/api/respond";
import { withHandover, type HandoverContext } from "@/app/api/v1/jobs/withHandover";
import { printResponse } from "@/app/threads/printThreads";
import { reportSchema } from "@/core/handover/report/reportSchema";
import { problemsOf } from "@/core/problem";

/** The report of a hand over, word for word as it was, with its signatures. */
export function GET(request: Request, context: HandoverContext): Promise<Response> {
  const asked = Object.fromEntries(new URL(request.url).searchParams);
  const query = reportQuerySchema.pick({ paper: true }).safeParse(asked);
  return withHandover(context, async ({ report, sha256: fingerprint, signatures, number }) => {
    if (!query.success)
      return errorResponse("invalid", "The report cannot be made so.", problemsOf(query.error).problems);
    const pictures = await picturesOf((await context.params).jobId, reportSchema.parse(JSON.parse(report)));
    return printResponse(request, {
      name: "handed-over",
      input: { report, fingerprint, number, signatures, pictures, paper: query.data.paper },
    });
  });
}
