import { reportQuerySchema } from "@/app/api/reportQuery";
import { errorResponse } from "@/app/api/respond";
import { today } from "@/app/library/dateOf";
import { printResponse } from "@/app/threads/printThreads";
import { problemsOf } from "@/core/problem";
import type { Job } from "@/db/job";
import { checkedLog } from "@/db/visitChain";
import { manyPlanChanges, manyVisitEntries } from "@/db/visitEntry";

/** The report of a job, as PDF or as data. */
export async function reportResponse(request: Request, job: Job, as: "pdf" | "data"): Promise<Response> {
  const query = reportQuerySchema.safeParse(Object.fromEntries(new URL(request.url).searchParams));
  if (!query.success)
    return errorResponse("invalid", "The report cannot be made so.", problemsOf(query.error).problems);
  const { form, paper } = query.data;
  const [entries, changes, { head }] = await Promise.all([
    manyVisitEntries(job.id),
    manyPlanChanges(job.id),
    checkedLog(job.id),
  ]);
  const { document } = job;
  return printResponse(request, {
    name: "report",
    input: { document, entries, changes, logHead: head, printed: today(), form, paper: as === "data" ? as : paper },
  });
}
