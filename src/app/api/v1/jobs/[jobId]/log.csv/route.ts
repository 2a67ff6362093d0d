import { answered, errorResponse } from "@/app/api/respond";
import { csvResponse } from "@/app/library/csv";
import { logOfJob } from "@/app/library/logOfJob";
import { LOG_WORDS } from "@/core/procedure/visitLog";

export function GET(_: Request, { params }: { params: Promise<{ jobId: string }> }): Promise<Response> {
  return answered(async () => {
    const lines = await logOfJob((await params).jobId);
    if (!lines) return errorResponse("not-found", "There is no such job, or it was deleted.");
    const rows = lines.map((line) => ({
      at: line.at,
      person: line.person,
      what: LOG_WORDS[line.kind],
      step: line.title,
      text: line.text,
      photo: line.photo ?? "",
      corrected: line.isCorrected ? "yes" : "",
    }));
    return csvResponse("log", rows, ["at", "person", "what", "step", "text", "photo", "corrected"]);
  });
}
