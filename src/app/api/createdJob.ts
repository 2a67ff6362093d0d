import { z } from "zod";
import { asking } from "@/app/api/asking";
import { errorResponse, fromThread, jsonResponse } from "@/app/api/respond";
import type { JobDocument } from "@/core/job/jobDocument";
import { createJob, type WrittenJob } from "@/db/job";
import { jobSummarised } from "@/workers/serverThreads";

const OK = 200;
const CREATED = 201;

/**
 * The id that the browser chose for a job that it asks for (`?id=`): the same request, sent again, then finds that job.
 */
export function wantedId(
  request: Request,
):
  { readonly kind: "ok"; readonly id: string | undefined } | { readonly kind: "refused"; readonly response: Response } {
  const given = new URL(request.url).searchParams.get("id") ?? undefined;
  if (given === undefined || z.uuid().safeParse(given).success) return { kind: "ok", id: given };
  return {
    kind: "refused",
    response: errorResponse("invalid", "The id is no UUID.", [{ path: ["id"], message: "must be a UUID" }]),
  };
}

/** Sum a document up and keep it as a new job; `from` is what it was asked with. */
export async function createdFrom(request: Request, document: JobDocument, from: string): Promise<Response> {
  const summed = fromThread(await jobSummarised({ document, entries: [] }, asking(request)));
  return summed.kind === "refused" ? summed.response : createdJob(request, summed.value, from);
}

/** Keep a new job, and answer with it; `more` stands beside it in the answer. */
export async function createdJob(
  request: Request,
  job: WrittenJob,
  from: string,
  more: object = {},
): Promise<Response> {
  const wanted = wantedId(request);
  if (wanted.kind === "refused") return wanted.response;
  const outcome = await createJob(job, { id: wanted.id, request: wanted.id === undefined ? undefined : from });
  switch (outcome.kind) {
    case "created":
      return jsonResponse({ ...outcome.job, ...more }, { status: CREATED });
    case "there-already":
      return jsonResponse({ ...outcome.job, ...more }, { status: OK });
    case "taken":
      return errorResponse("conflict", "Nothing was made: this id stands for another job, or for a deleted one.", [
        { path: ["id"], message: "is taken; send the request with an id of its own" },
      ]);
  }
}
