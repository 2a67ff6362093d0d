import { z } from "zod";
import { reportQuerySchema } from "@/app/api/reportQuery";
import { errorResponse, type Parsed } from "@/app/api/respond";
import { today } from "@/app/library/dateOf";
import { printedPictures } from "@/app/library/printedPictures";
import type { Pictures, ReportAsked } from "@/app/threads/printTasks";
import { printedBytes, printResponse } from "@/app/threads/printThreads";
import { gridNotice } from "@/core/handover/notice";
import { REPORT_LANGUAGE_IDS, type ReportLanguage } from "@/core/handover/report/words/reportLanguages";
import { reportAnswerSchema, type Report, type ReportAnswer } from "@/core/handover/report/reportSchema";
import { problemsOf } from "@/core/problem";
import type { VisitEntry } from "@/core/visit/visitEntry";
import type { Job } from "@/db/job";
import { checkedLog, sha256Hex } from "@/db/visitChain";
import { manyPlanChanges, manyVisitEntries } from "@/db/visitEntry";

const rawAnswerSchema = z.object({ sha256: z.string(), report: z.unknown() });

/** The report of a job, as PDF or as data. */
export async function reportResponse(request: Request, job: Job, as: "pdf" | "data"): Promise<Response> {
  const query = reportQuerySchema.safeParse(Object.fromEntries(new URL(request.url).searchParams));
  if (!query.success)
    return errorResponse("invalid", "The report cannot be made so.", problemsOf(query.error).problems);
  const { form, paper, language } = query.data;
  const ground = await groundOf(job);
  const pictures = as === "pdf" && form === "full" ? await printedPictures(job.id, photosIn(ground.entries)) : {};
  return printResponse(request, {
    name: "report",
    input: { ...ground, form, language, pictures, paper: as === "data" ? as : paper },
  });
}

/** A report with its text as it was hashed: read and written again its parts may stand in another order. */
export type CurrentReport = ReportAnswer & { readonly text: string };

/** The whole report of a job as it would be now, in each language, with the fingerprints of their data. */
export async function currentReports(
  request: Request,
  job: Job,
): Promise<Parsed<Readonly<Record<ReportLanguage, CurrentReport>>>> {
  const ground = await groundOf(job);
  const found: [ReportLanguage, CurrentReport][] = [];
  for (const language of REPORT_LANGUAGE_IDS) {
    const printed = await printedBytes(request, {
      name: "report",
      input: { ...ground, form: "full", language, paper: "data", pictures: {} },
    });
    if (printed.kind === "refused") return printed;
    const raw = rawAnswerSchema.parse(JSON.parse(Buffer.from(printed.value.bytes).toString("utf8")));
    found.push([language, { ...reportAnswerSchema.parse(raw), text: JSON.stringify(raw.report) }]);
  }
  return { kind: "ok", value: Object.fromEntries(found) as Record<ReportLanguage, CurrentReport> };
}

/** The notice to the grid operator as PDF. */
export async function noticeResponse(request: Request, job: Job, paper: "a4" | "letter"): Promise<Response> {
  const { entries, logHead, today: day } = await groundOf(job);
  const report = JSON.stringify(gridNotice(job.document, entries, { today: day, logHead }));
  const title = `Notice to the grid operator, ${job.document.job.name}`;
  return printResponse(request, {
    name: "handed-over",
    input: { title, report, fingerprint: sha256Hex(report), signatures: [], paper, pictures: {} },
  });
}

async function groundOf({ id, document }: Job): Promise<Omit<ReportAsked, "form" | "language" | "paper" | "pictures">> {
  const [entries, changes, { head }] = await Promise.all([manyVisitEntries(id), manyPlanChanges(id), checkedLog(id)]);
  return { document, entries, changes, logHead: head, today: today() };
}

function photosIn(entries: readonly VisitEntry[]): readonly string[] {
  return entries.flatMap((entry) => (entry.kind === "photo" ? [entry.photo] : []));
}

/** The photographs that a report names, as they are printed. */
export async function picturesOf(jobId: string, report: Report): Promise<Pictures> {
  return printedPictures(
    jobId,
    report.sections.flatMap(({ pictures }) => pictures.map(({ id }) => id)),
  );
}
