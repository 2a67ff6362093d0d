import { asking } from "@/app/api/asking";
import { answered, errorResponse, fromThread, jsonResponse, PRIVATE, readJsonBytes } from "@/app/api/respond";
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
      case "saved":
        return savedResponse(jobId, outcome, job.text);
      case "gone":
        return noSuchJob();
      case "conflict":
        return errorResponse("conflict", "The job was changed elsewhere since; nothing was overwritten.", [], {
          current: outcome.current,
        });
    }
  });
}

export function DELETE(_: Request, { params }: Context): Promise<Response> {
  return answered(async () =>
    (await deleteJob((await params).jobId)) ? new Response(null, { status: 204 }) : noSuchJob(),
  );
}

/** The job as it is now, its document as the text that was written. */
function savedResponse(
  id: string,
  { revision, savedAt }: { readonly revision: number; readonly savedAt: string },
  document: string,
): Response {
  const rest = JSON.stringify({ id, revision, savedAt });
  return new Response(`${rest.slice(0, -1)},"document":${document}}`, {
    headers: { ...PRIVATE, "content-type": "application/json" },
  });
}

function noSuchJob(): Response {
  return errorResponse("not-found", "There is no such job, or it was deleted.");
}
