import { z } from "zod";
import { answerBy, answered, errorResponse, parseBody, PRIVATE } from "@/app/api/respond";
import { noSuchJob, type JobContext } from "@/app/api/v1/jobs/withJob";
import { keptEntriesSchema, visitLogSchema } from "@/core/answers/jobAnswers";
import { visitEntriesSchema } from "@/core/visit/visitEntry";
import { addVisitEntries, manyPlanChanges, manyVisitEntries, maybeVisitMark } from "@/db/visitEntry";

/**
 * The log of a job: what was recorded, and which revisions changed what. Whoever has it already (`If-None-Match`) gets
 * 304.
 */
export function GET(request: Request, { params }: JobContext): Promise<Response> {
  return answered(async () => {
    const { jobId } = await params;
    const mark = z.uuid().safeParse(jobId).success ? await maybeVisitMark(jobId) : undefined;
    if (mark === undefined) return noSuchJob();
    const headers = { etag: `"${mark}"`, ...PRIVATE };
    if (request.headers.get("if-none-match") === headers.etag) return new Response(null, { status: 304, headers });
    const [entries, changes] = await Promise.all([manyVisitEntries(jobId), manyPlanChanges(jobId)]);
    return answerBy(
      visitLogSchema,
      { entries: [...entries], changes: changes.map((change) => ({ ...change, parts: [...change.parts] })) },
      { headers },
    );
  });
}

/** Keep entries; what is acknowledged is in the database. The same entries sent again change nothing. */
export function POST(request: Request, { params }: JobContext): Promise<Response> {
  return answered(async () => {
    const { jobId } = await params;
    const parsed = await parseBody(request, visitEntriesSchema);
    if (parsed.kind === "refused") return parsed.response;
    const { entries } = parsed.value;
    const outcome = z.uuid().safeParse(jobId).success
      ? await addVisitEntries(jobId, entries)
      : ({ kind: "no-job" } as const);
    switch (outcome.kind) {
      case "kept":
        return answerBy(keptEntriesSchema, { kept: [...outcome.ids] });
      case "no-job":
        return noSuchJob();
      case "taken":
        return errorResponse(
          "conflict",
          "Nothing was kept: an id stands for another line already.",
          outcome.taken.map(({ id, why }) => ({
            path: ["entries", entries.findIndex((entry) => entry.id === id), "id"],
            message: `is taken: ${why}; give each line an id of its own`,
          })),
        );
    }
  });
}
