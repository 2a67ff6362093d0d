import { randomUUID } from "node:crypto";
import { benchProblemAnswer, specOfJob } from "@/app/api/bench";
import { answerBy, errorResponse, parseBody } from "@/app/api/respond";
import { withJob, type JobContext } from "@/app/api/v1/jobs/withJob";
import { benchHost } from "@/bench/benchHost";
import { benchRequestSchema, benchSchema, jobBenchSchema } from "@/core/bench/benchSchema";

/** Where the bench of a job stands, where one runs. */
export function GET(_: Request, context: JobContext): Promise<Response> {
  return withJob(context, async (job) => {
    return answerBy(jobBenchSchema, { running: (await benchHost().status(job.id)) ?? null });
  });
}

/** Start the bench of a job, in place of the one that it had. */
export function POST(request: Request, context: JobContext): Promise<Response> {
  return withJob(context, async (job) => {
    const parsed = await parseBody(request, benchRequestSchema);
    if (parsed.kind === "refused") return parsed.response;
    const { fitting } = parsed.value;
    const faults = typeof fitting === "string" ? [] : fitting.faults;
    const refused = benchProblemAnswer(job.document, { faults }, ["fitting"]);
    if (refused) return refused;
    const outcome = await benchHost().start(job.id, specOfJob(job, randomUUID(), parsed.value));
    switch (outcome.kind) {
      case "started":
        return answerBy(benchSchema, outcome.bench, { status: 201 });
      case "too-many":
        return errorResponse("too-much", "Four benches are running already: end one of them first.");
      case "failed":
        return errorResponse("failed", outcome.message);
    }
  });
}
