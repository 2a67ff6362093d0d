import { z } from "zod";
import { errorResponse } from "@/app/api/respond";
import { withJob, type JobContext } from "@/app/api/v1/jobs/withJob";
import { today } from "@/app/library/dateOf";
import { printResponse } from "@/app/threads/printThreads";
import { problemsOf } from "@/core/problem";
import { text } from "@/core/text";

const querySchema = z.object({
  form: z.enum(["a4-24", "a4-10", "single"]).default("a4-24"),
  date: z.iso.date("a date is written 2026-11-25").optional(),
  only: text().max(200).optional(),
});

/** The labels of a job as a PDF to print: an A4 grid or one a page; `only` prints a single label. */
export function GET(request: Request, context: JobContext): Promise<Response> {
  return withJob(context, (job) => {
    const query = querySchema.safeParse(Object.fromEntries(new URL(request.url).searchParams));
    if (!query.success)
      return errorResponse("invalid", "The labels cannot be printed like this.", problemsOf(query.error).problems);
    const { form, date, only } = query.data;
    return printResponse(request, {
      name: "labels",
      input: { document: job.document, form, date: date ?? today(), only },
    });
  });
}
