import { createElement } from "react";
import QRCode from "qrcode";
import { z } from "zod";
import { answered, errorResponse } from "@/app/api/respond";
import { today } from "@/app/library/dateOf";
import { pdfResponse } from "@/app/library/pdfResponse";
import { labels } from "@/core/procedure/labels";
import { maybeJob } from "@/db/job";
import { LabelSheetPdf, SHEET_FORMS } from "@/ui/print/LabelSheetPdf";

const querySchema = z.object({
  form: z.enum(["a4-24", "a4-10", "single"]).default("a4-24"),
  date: z.iso.date("a date is written 2026-11-25").optional(),
  only: z.string().max(200).optional(),
});

/** The labels of a job as a PDF to print: an A4 grid or one a page; `only` prints a single label. */
export function GET(request: Request, { params }: { params: Promise<{ jobId: string }> }): Promise<Response> {
  return answered(async () => {
    const query = querySchema.safeParse(Object.fromEntries(new URL(request.url).searchParams));
    if (!query.success) return errorResponse("invalid", "The labels cannot be printed like this.", query.error.issues.map((issue) => ({ path: issue.path.map(String), message: issue.message })));
    const job = await maybeJob((await params).jobId);
    if (!job) return errorResponse("not-found", "There is no such job, or it was deleted.");
    const { form, date, only } = query.data;
    const wanted = labels(job.document, date ?? today()).filter((label) => only === undefined || label.id === only);
    if (wanted.length === 0) return errorResponse("cannot-compute", "There is nothing to label: the plan has no input with a clamp.");
    const codes = new Map(await Promise.all(wanted.map(async (label) => [label.id, await QRCode.toDataURL(label.text, { margin: 0, scale: 6, errorCorrectionLevel: "M" })] as const)));
    return pdfResponse("labels", createElement(LabelSheetPdf, { labels: wanted, form: SHEET_FORMS[form], codes, title: `Labels, ${job.document.job.name}` }));
  });
}
