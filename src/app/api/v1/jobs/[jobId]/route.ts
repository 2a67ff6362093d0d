import { asking } from "@/app/api/asking";
import { answered, errorResponse, fromThread, jsonResponse, readJsonBytes } from "@/app/api/respond";
import { MAX_JOB_BYTES } from "@/app/api/v1/jobs/maxJobBytes";
import { deleteJob, maybeJob, saveJob } from "@/db/job";
import { saveRead } from "@/workers/serverThreads";

interface Context {
  readonly params: Promise<{ jobId: string }>;
}

export function GET(_: Request, { params }: Context): Promise<Response> {
  return answered(async () => {
    const job = await maybeJob((await params).jobId);
    return job ? jsonResponse(job) : noSuchJob();
  });
}

/** Save on top of a revision; another revision in between gives 409 with the current version. */
export function PUT(request: Request, { params }: Context): Promise<Response> {
  return answered(async () => {
    const { jobId } = await params;
    const body = await readJsonBytes(request, MAX_JOB_BYTES);
    if (body.kind === "refused") return body.response;
    const read = fromThread(await saveRead(body.value, asking(request)));
    if (read.kind === "refused") return read.response;
    if (read.value.kind !== "ready") return errorResponse(read.value.kind, read.value.message, read.value.problems);
    const { revision, person, job } = read.value;
    const outcome = await saveJob(jobId, revision, job, person);
    switch (outcome.kind) {
      case "saved": return jsonResponse(outcome.job);
      case "gone": return noSuchJob();
      case "conflict": return errorResponse("conflict", "The job was changed elsewhere since; nothing was overwritten.", [], { current: outcome.current });
    }
  });
}

export function DELETE(_: Request, { params }: Context): Promise<Response> {
  return answered(async () => await deleteJob((await params).jobId) ? new Response(null, { status: 204 }) : noSuchJob());
}

function noSuchJob(): Response {
  return errorResponse("not-found", "There is no such job, or it was deleted.");
}
