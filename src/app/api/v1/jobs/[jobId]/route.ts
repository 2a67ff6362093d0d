import { asking } from "@/app/api/asking";
import { answered, errorResponse, fromThread, jsonResponse, PRIVATE, readJsonBytes } from "@/app/api/respond";
import { MAX_JOB_BYTES } from "@/app/api/v1/jobs/maxJobBytes";
import { noSuchJob, withJob, type JobContext } from "@/app/api/v1/jobs/withJob";
import { deleteJob, saveJob } from "@/db/job";
import { saveRead } from "@/workers/serverThreads";

/** The job, marked by its revision: whoever has that one already (`If-None-Match`) gets 304. */
export function GET(request: Request, context: JobContext): Promise<Response> {
  return withJob(context, (job) => {
    const headers = { etag: markOf(job.revision) };
    return request.headers.get("if-none-match") === headers.etag
      ? new Response(null, { status: 304, headers: { ...PRIVATE, ...headers } })
      : jsonResponse(job, { headers });
  });
}

/**
 * Save on top of a revision; another revision in between gives 409 with the current version. `If-Match` may say the
 * revision too; it must be the one of the body.
 */
export function PUT(request: Request, { params }: JobContext): Promise<Response> {
  return answered(async () => {
    const { jobId } = await params;
    const body = await readJsonBytes(request, MAX_JOB_BYTES);
    if (body.kind === "refused") return body.response;
    const read = fromThread(await saveRead(body.value, asking(request)));
    if (read.kind === "refused") return read.response;
    if (read.value.kind !== "ready") return errorResponse(read.value.kind, read.value.message, read.value.problems);
    const { revision, person, job } = read.value;
    const match = request.headers.get("if-match");
    if (match !== null && match !== markOf(revision))
      return errorResponse("invalid", "The header and the body say different revisions; nothing was saved.", [
        { path: ["if-match"], message: `must be ${markOf(revision)}, as "revision" in the body` },
      ]);
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

export function DELETE(_: Request, { params }: JobContext): Promise<Response> {
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
    headers: { ...PRIVATE, "content-type": "application/json", etag: markOf(revision) },
  });
}

/** The mark of a revision, as `ETag` and `If-Match` have it. */
function markOf(revision: number): string {
  return `"${revision}"`;
}
