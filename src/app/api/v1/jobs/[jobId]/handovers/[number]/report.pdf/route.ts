import { z } from "zod";
import { reportQuerySchema } from "@/app/api/reportQuery";
import { answered, errorResponse } from "@/app/api/respond";
import { printResponse } from "@/app/threads/printThreads";
import { problemsOf } from "@/core/problem";
import { maybeHandover } from "@/db/handover";
import { maybeJob } from "@/db/job";

interface Context {
  readonly params: Promise<{ jobId: string; number: string }>;
}

const numberSchema = z.coerce.number().int().min(1).max(1_000_000);

/** The report of a hand over, word for word as it was, with its signatures. */
export function GET(request: Request, { params }: Context): Promise<Response> {
  return answered(async () => {
    const { jobId, number: asked } = await params;
    const query = reportQuerySchema
      .pick({ paper: true })
      .safeParse(Object.fromEntries(new URL(request.url).searchParams));
    if (!query.success)
      return errorResponse("invalid", "The report cannot be made so.", problemsOf(query.error).problems);
    const number = numberSchema.safeParse(asked);
    const job = await maybeJob(jobId);
    const kept = job && number.success ? await maybeHandover(job.id, number.data) : undefined;
    if (!kept) return errorResponse("not-found", "There is no such hand over.");
    const { report, sha256: fingerprint, signatures } = kept;
    return printResponse(request, {
      name: "handed-over",
      input: { report, fingerprint, number: kept.number, signatures, paper: query.data.paper },
    });
  });
}
