import QRCode from "qrcode";
import { createElement, type ReactElement } from "react";
import { registerPdfFonts, warmPdfFonts } from "@/app/threads/pdfFonts";
import { taggedPdf } from "@/app/threads/taggedPdf";
import { createHash } from "node:crypto";
import { buildReport } from "@/core/handover/report/buildReport";
import type { ReportLanguage } from "@/core/handover/report/words/reportLanguages";
import { reportSchema } from "@/core/handover/report/reportSchema";
import type { Signature } from "@/core/handover/version/signature";
import type { OwnerPage } from "@/core/handover/owner/ownerPage";
import type { JobDocument } from "@/core/job/jobDocument";
import { sortFindings } from "@/core/job/openFindings";
import { quickDiagnosis } from "@/core/jobSummary";
import { hasReadings, rememberedFindings } from "@/core/stages";
import type { VisitEntry } from "@/core/visit/visitEntry";
import { visitLog, type PlanChange } from "@/core/visit/visitLog";
import { visitSheet } from "@/core/visit/visitSheet";
import { visitState } from "@/core/visit/visitState";
import { saidWiring } from "@/core/links/wiring/saidWiring";
import { asPrinted } from "@/core/job/asPrinted";
import { resolve } from "@/core/plan/resolve";
import { labels } from "@/core/visit/labels";
import { LabelSheetPdf, SHEET_FORMS } from "@/ui/print/LabelSheetPdf";
import { OwnerPdf } from "@/ui/print/OwnerPdf";
import { ReportPdf } from "@/ui/print/ReportPdf";
import { WiringPdf } from "@/ui/print/WiringPdf";

export interface LabelsAsked {
  readonly document: JobDocument;
  readonly form: keyof typeof SHEET_FORMS;
  readonly date: string;
  /** One label instead of all. */
  readonly only?: string | undefined;
}

export interface WiringAsked {
  readonly document: JobDocument;
  readonly printed: string;
}

/** Photographs as small as they are printed (JPEG), by their ids. */
export type Pictures = Readonly<Record<string, Uint8Array>>;

export interface ReportAsked {
  readonly document: JobDocument;
  readonly entries: readonly VisitEntry[];
  readonly changes: readonly PlanChange[];
  readonly logHead: string;
  readonly today: string;
  readonly form: "short" | "full";
  readonly language: ReportLanguage;
  readonly paper: "a4" | "letter" | "data";
  readonly pictures: Pictures;
}

export interface HandedOverAsked {
  /** Where it is no report. */
  readonly title?: string;
  readonly report: string;
  readonly fingerprint: string;
  /** Of a hand over; none of a report of now. */
  readonly number?: number;
  readonly signatures: readonly Signature[];
  readonly paper: "a4" | "letter";
  readonly pictures: Pictures;
}

export interface OwnerSheetAsked {
  readonly page: OwnerPage;
  readonly paper: "a4" | "letter";
}

export type Printed =
  | { readonly kind: "pdf" | "json"; readonly bytes: Uint8Array }
  | { readonly kind: "nothing"; readonly message: string };

registerPdfFonts();
/** Once every sign is laid out. */
export const warmed = warmPdfFonts();

/** The labels of a job with their codes, as a sheet or one a page. */
export async function printLabels({ document, form, date, only }: LabelsAsked): Promise<Printed> {
  const wanted = labels(document, date).filter((label) => only === undefined || label.id === only);
  if (wanted.length === 0)
    return { kind: "nothing", message: "There is nothing to label: the plan has no input with a CT." };
  const codes = new Map(
    wanted.map((label) => [label.id, QRCode.create(label.text, { errorCorrectionLevel: "M" }).modules]),
  );
  return printed(
    createElement(LabelSheetPdf, {
      labels: wanted,
      form: SHEET_FORMS[form],
      codes,
      title: `Labels, ${document.job.name}`,
    }),
  );
}

/** The wiring schedule of a job. */
export async function printWiring({ document, printed: day }: WiringAsked): Promise<Printed> {
  const { terminated, job } = document;
  const groups = saidWiring(resolve(document), asPrinted(document));
  if (groups.length === 0)
    return { kind: "nothing", message: "There is no core to terminate: the plan has no link and no meter." };
  return printed(createElement(WiringPdf, { job: job.name, groups, done: new Set(terminated), printed: day }));
}

/** The report of a job: as PDF, or its data; both carry the fingerprint of the data. */
export async function printReport({
  document,
  entries,
  changes,
  paper,
  form,
  language,
  pictures,
  ...about
}: ReportAsked): Promise<Printed> {
  const sheet = visitSheet(document);
  const visit = visitState(sheet, entries, document.visit.id);
  const diagnosis = hasReadings(document) ? quickDiagnosis(document) : undefined;
  const view = { document, sheet, visit, diagnosis };
  const findings = sortFindings(rememberedFindings()(view), document.accepted);
  const log = visitLog(entries, changes, document.accepted);
  const report = buildReport({ ...view, findings, entries, log, ...about }, form, language);
  const data = JSON.stringify(report);
  const fingerprint = createHash("sha256").update(data).digest("hex");
  if (paper === "data")
    return { kind: "json", bytes: new TextEncoder().encode(JSON.stringify({ sha256: fingerprint, report })) };
  return printed(
    createElement(ReportPdf, {
      report,
      fingerprint,
      pictures,
      paper: paper === "a4" ? "A4" : "LETTER",
      isShort: form === "short",
    }),
  );
}

/** A hand over as it was: its report word for word, with the signatures under it. */
export async function printHandedOver({ report, paper, ...about }: HandedOverAsked): Promise<Printed> {
  return printed(
    createElement(ReportPdf, {
      ...about,
      report: reportSchema.parse(JSON.parse(report)),
      paper: paper === "a4" ? "A4" : "LETTER",
    }),
  );
}

/** What an owner reads, as a sheet to leave there. */
export async function printOwnerSheet({ page, paper }: OwnerSheetAsked): Promise<Printed> {
  return printed(createElement(OwnerPdf, { page, paper: paper === "a4" ? "A4" : "LETTER" }));
}

async function printed(document: ReactElement<object>): Promise<Printed> {
  await warmed;
  return { kind: "pdf", bytes: await taggedPdf(document) };
}
