"use client";

import { FileText, Package } from "lucide-react";
import { useState } from "react";
import type { ReportLanguage } from "@/core/handover/report/words/reportLanguages";
import { ReportLanguageField } from "@/ui/handover/ReportLanguageField";
import { ReportSheet } from "@/ui/handover/ReportSheet";
import { useReport, type ReportDesk } from "@/ui/handover/useReport";
import { useConnected } from "@/ui/parts/browser/useConnected";
import { SelectField } from "@/ui/parts/form/SelectField";
import { FromServer } from "@/ui/parts/show/FromServer";
import { useJob } from "@/ui/workspace/workspaceContext";
import { HANDOVER_WORDS } from "@/ui/words/handoverWords";

const FORMS = [
  { value: "full", label: HANDOVER_WORDS.fullEverything },
  { value: "short", label: HANDOVER_WORDS.shortWhatIsProvedAndByWhat },
];
const PAPERS = [
  { id: "a4", name: HANDOVER_WORDS.pdfA4 },
  { id: "letter", name: HANDOVER_WORDS.pdfLetter },
];

/** The proof as a document: read here, as a PDF, as data, or with everything else in a bundle. */
export function ReportPart() {
  const { id } = useJob();
  const [form, setForm] = useState("full");
  const [language, setLanguage] = useState<ReportLanguage>("en");
  const query = `form=${form}&language=${language}`;
  const desk = useReport(query);
  return (
    <div className="mx-auto max-w-4xl space-y-4">
      <section aria-label={HANDOVER_WORDS.howItIsMade} className="panel flex flex-wrap items-end gap-2 p-3">
        <SelectField label={HANDOVER_WORDS.form} value={form} options={FORMS} onValue={setForm} />
        <ReportLanguageField label={HANDOVER_WORDS.languageOfTheReport} language={language} onLanguage={setLanguage} />
        {PAPERS.map((paper) => (
          <FromServer
            key={paper.id}
            className="btn press"
            href={`/api/v1/jobs/${id}/report.pdf?${query}&paper=${paper.id}`}
            target="_blank"
            rel="noreferrer"
          >
            <FileText size={18} aria-hidden />
            {paper.name}
          </FromServer>
        ))}
        <FromServer className="btn press" href={`/api/v1/jobs/${id}/report.json?${query}`} download>
          {HANDOVER_WORDS.itsData}
        </FromServer>
        <FromServer className="btn press" href={`/api/v1/jobs/${id}/handover.zip`} download>
          <Package size={18} aria-hidden />
          {HANDOVER_WORDS.everythingAsABundle}
        </FromServer>
        <p className="quiet w-full text-sm">{HANDOVER_WORDS.theBundleIsAZipWithReportJobLog}</p>
      </section>
      <Shown jobId={id} desk={desk} />
    </div>
  );
}

function Shown({ jobId, desk: { answer, isBusy, problem } }: { jobId: string; desk: ReportDesk }) {
  const isConnected = useConnected();
  if (problem !== undefined)
    return (
      <p role="alert" className="font-semibold text-error">
        {problem}
      </p>
    );
  if (!answer)
    return (
      <p role="status">
        {isConnected ? HANDOVER_WORDS.theReportIsBeingMade : HANDOVER_WORDS.theServerMakesItThisNeeds}
      </p>
    );
  return (
    <div aria-busy={isBusy} className="panel space-y-4 p-4 max-md:p-2">
      {!isConnected && <p className="text-sm font-semibold">{HANDOVER_WORDS.asTheServerHadItLastANewerOneNeeds}</p>}
      <ReportSheet jobId={jobId} report={answer.report} />
      <p className="quiet text-sm">
        {HANDOVER_WORDS.itsDataSha256} <span className="font-mono break-all">{answer.sha256}</span>
      </p>
    </div>
  );
}
