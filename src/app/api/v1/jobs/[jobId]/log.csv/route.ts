import { withJob, type JobContext } from "@/app/api/v1/jobs/withJob";
import { csvResponse } from "@/app/library/csv";
import { logOfJob } from "@/app/library/logOfJob";
import { visitNames } from "@/core/visit/visitKinds";
import { LOG_WORDS } from "@/core/visit/visitLog";

export function GET(_: Request, context: JobContext): Promise<Response> {
  return withJob(context, async (job) => {
    const lines = await logOfJob(job);
    const names = visitNames(job.document.visit);
    const rows = lines.map((line) => ({
      at: line.at,
      visit: line.visit === undefined ? "" : (names.get(line.visit) ?? line.visit),
      person: line.person,
      what: LOG_WORDS[line.kind],
      step: line.title,
      text: line.text,
      photo: line.photo ?? "",
      corrected: line.isCorrected ? "yes" : "",
    }));
    return csvResponse("log", rows, ["at", "visit", "person", "what", "step", "text", "photo", "corrected"]);
  });
}
