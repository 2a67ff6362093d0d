import { benchProblemAnswer } from "@/app/api/bench";
import { answerBy, errorResponse, parseBody } from "@/app/api/respond";
import { withJob } from "@/app/api/v1/jobs/withJob";
import { benchHost } from "@/bench/benchHost";
import { benchChangeSchema, benchStatusSchema } from "@/core/bench/benchSchema";
import type { Job } from "@/db/job";

interface Context {
  readonly params: Promise<{ jobId: string; benchId: string }>;
}

/** Change what is on, what is wrong, or how fast time goes. */
export function PATCH(request: Request, context: Context): Promise<Response> {
  return withBench(context, async (job) => {
    const parsed = await parseBody(request, benchChangeSchema);
    if (parsed.kind === "refused") return parsed.response;
    const { faults, state, acts } = parsed.value;
    const refused = benchProblemAnswer(job.document, {
      ...(faults ? { faults } : {}),
      ...(acts ? { acts } : {}),
      ...(state ? { devices: state.devices } : {}),
    });
    if (refused) return refused;
    const status = await benchHost().change(job.id, parsed.value);
    if (status === undefined) return noBench();
    return status === "impossible"
      ? errorResponse("cannot-compute", "These faults cannot be there together: a CT would be where no conductor is.")
      : answerBy(benchStatusSchema, status);
  });
}

/** End it. */
export function DELETE(_: Request, context: Context): Promise<Response> {
  return withBench(context, (job) => {
    benchHost().end(job.id);
    return new Response(null, { status: 204 });
  });
}

function withBench(context: Context, answer: (job: Job) => Promise<Response> | Response): Promise<Response> {
  return withJob(context, async (job) =>
    benchHost().benchOf(job.id)?.id === (await context.params).benchId ? answer(job) : noBench(),
  );
}

function noBench(): Response {
  return errorResponse("not-found", "There is no such bench: it was ended, or started anew under another id.");
}
