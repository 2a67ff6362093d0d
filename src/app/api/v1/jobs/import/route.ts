import { answered, errorResponse, readText } from "@/app/api/respond";
import { importJob } from "@/core/job/importJob";
import { createJob } from "@/db/job";

const MAX_FILE_BYTES = 5_000_000;

export function POST(request: Request): Promise<Response> {
  return answered(async () => {
    const text = await readText(request, MAX_FILE_BYTES);
    if (text.kind === "refused") return text.response;
    const outcome = importJob(text.value);
    if (outcome.kind === "job") return Response.json(await createJob(outcome.document), { status: 201 });
    return errorResponse("invalid", "Nothing was imported: the file has problems.", outcome.problems);
  });
}
