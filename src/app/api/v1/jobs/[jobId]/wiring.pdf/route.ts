import { createElement } from "react";
import { answered, errorResponse } from "@/app/api/respond";
import { today } from "@/app/library/dateOf";
import { pdfResponse } from "@/app/library/pdfResponse";
import { wiringSchedule } from "@/core/links/wiringSchedule";
import { maybeJob } from "@/db/job";
import { WiringPdf } from "@/ui/print/WiringPdf";

export function GET(_: Request, { params }: { params: Promise<{ jobId: string }> }): Promise<Response> {
  return answered(async () => {
    const job = await maybeJob((await params).jobId);
    if (!job) return errorResponse("not-found", "There is no such job, or it was deleted.");
    const { site, kits, links, terminated, job: details } = job.document;
    const rows = wiringSchedule(site, kits, links);
    if (rows.length === 0) return errorResponse("cannot-compute", "There is no core to terminate: the plan has no link.");
    return pdfResponse("wiring", createElement(WiringPdf, { job: details.name, links, rows, done: new Set(terminated), printed: today() }));
  });
}
