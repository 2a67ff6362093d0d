import { z } from "zod";
import { answered, errorResponse } from "@/app/api/respond";
import { today } from "@/app/library/dateOf";
import { printResponse } from "@/app/threads/printThreads";
import { problemsOf } from "@/core/problem";
import { text } from "@/core/text";
import { maybeJob } from "@/db/job";

const querySchema = z.object({
  form: z.enum(["a4-24", "a4-10", "single"]).default("a4-24"),
  date: z.iso.date("a date is written 2026-11-25").optional(),
  only: text().max(200).optional(),
});

/** The labels of a job as a PDF to print: an A4 grid or one a page; `only` prints a single label. */
export function GET(request: Request, { params }: { params: Promise<{ jobId: string }> }): Promise<Response> {
  return answered(async () => {
    const query = querySchema.safeParse(Object.fromEntries(new URL(request.url).searchParams));
    if (!query.success)
      return errorResponse("invalid", "The labels cannot be printed like this.", problemsOf(query.error).problems);
    const job = await maybeJob((await params).jobId);
    if (!job) return errorResponse("not-found", "There is no such job, or it was deleted.");
    const { form, date, only } = query.data;
    return printResponse(request, {
      name: "labels",
      input: { document: job.document, form, date: date ?? today(), only },
    });
  });
}
