import { z } from "zod";
import { answered, errorResponse, parseBody } from "@/app/api/respond";
import { jobDocumentSchema } from "@/core/job/jobDocument";
import { deleteJob, maybeJob, saveJob } from "@/db/job";

const MAX_JOB_BYTES = 5_000_000;

const saveSchema = z.object({ revision: z.int().min(1), document: jobDocumentSchema });

interface Context {
  readonly params: Promise<{ jobId: string }>;
}

export function GET(_: Request, { params }: Context): Promise<Response> {
  return answered(async () => {
    const job = await maybeJob((await params).jobId);
    return job ? Response.json(job) : noSuchJob();
  });
}

/** Save on top of a revision; another revision in between gives 409 with the current version. */
export function PUT(request: Request, { params }: Context): Promise<Response> {
  return answered(async () => {
    const { jobId } = await params;
    const parsed = await parseBody(request, saveSchema, MAX_JOB_BYTES);
    if (parsed.kind === "refused") return parsed.response;
    if (!z.uuid().safeParse(jobId).success) return noSuchJob();
    const outcome = await saveJob(jobId, parsed.value.revision, parsed.value.document);
    switch (outcome.kind) {
      case "saved": return Response.json(outcome.job);
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
