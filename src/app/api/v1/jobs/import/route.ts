import { asking } from "@/app/api/asking";
import { createdJob } from "@/app/api/createdJob";
import { answered, errorResponse, fromThread, readJsonBytes } from "@/app/api/respond";
import { MAX_JOB_BYTES } from "@/app/api/v1/jobs/maxJobBytes";
import { importRead } from "@/workers/serverThreads";

/** Bring in a job file. `questions` in the answer are what an earlier version of the format left open. */
export function POST(request: Request): Promise<Response> {
  return answered(async () => {
    const body = await readJsonBytes(request, MAX_JOB_BYTES);
    if (body.kind === "refused") return body.response;
    const from = body.value.toString("utf8");
    const read = fromThread(await importRead({ body: body.value, at: new Date().toISOString() }, asking(request)));
    if (read.kind === "refused") return read.response;
    if (read.value.kind === "bad-file")
      return errorResponse("invalid", "Nothing was imported: the file has problems.", read.value.problems);
    return createdJob(
      request,
      read.value.job,
      from,
      read.value.questions.length > 0 ? { questions: read.value.questions } : {},
    );
  });
}
