"use client";

import { ArrowRight, CircleAlert, CircleCheck, FileText, Handshake, Package, type LucideIcon } from "lucide-react";
import { useMemo } from "react";
import { handoverItems, type HandoverItem } from "@/core/handover/handoverItems";
import { copyWords } from "@/core/job/copyMark";
import { STAGES } from "@/core/stages";
import { HandoverVersions } from "@/ui/handover/HandoverVersions";
import { OwnerLinkPart } from "@/ui/handover/OwnerLinkPart";
import { DeadlinesPart } from "@/ui/handover/DeadlinesPart";
import { LogCheck } from "@/ui/handover/LogCheck";
import { ServicePart } from "@/ui/handover/ServicePart";
import { useHandovers } from "@/ui/handover/useHandovers";
import { useSay } from "@/ui/parts/browser/useNumberStyle";
import { StageLink } from "@/ui/workspace/frame/stageMoves";
import { useFindings, useJob, useVerdict, useVisitWork } from "@/ui/workspace/workspaceContext";

const LOOKS: Readonly<
  Record<HandoverItem["state"], { title: string; Icon: LucideIcon; colour: string; word: string }>
> = {
  missing: { title: "Missing, the worst first", Icon: CircleAlert, colour: "text-warning", word: "missing" },
  accepted: { title: "Accepted, with its reason", Icon: Handshake, colour: "text-info", word: "accepted" },
  proved: { title: "Proved", Icon: CircleCheck, colour: "text-success", word: "proved" },
};

const REPORTS = [
  { query: "form=short&paper=a4", name: "Short, A4" },
  { query: "form=full&paper=a4", name: "Full, A4" },
  { query: "form=full&paper=letter", name: "Full, Letter" },
];

/** Hand over: what a finished site has, what is missing, and the way to fill it. Done is earned. */
export function HandoverStage() {
  const { id, document } = useJob();
  const { sheet, state: visit } = useVisitWork();
  const { diagnosis } = useVerdict();
  const findings = useFindings();
  const items = useMemo(
    () => handoverItems({ document, sheet, visit, diagnosis, findings }),
    [document, sheet, visit, diagnosis, findings],
  );
  const desk = useHandovers();
  const say = useSay();
  const copy = copyWords(document);
  const missing = items.filter(({ state }) => state === "missing").length;
  return (
    <div className="mx-auto max-w-6xl space-y-4 p-4">
      <h2 className="sr-only">Hand over</h2>
      <p role="status" className={`text-2xl font-bold ${missing === 0 ? "text-success" : ""}`}>
        {missing === 0
          ? "Done: everything is proved or accepted"
          : missing === 1
            ? "One thing is missing"
            : `${missing} things are missing`}
      </p>
      {copy && <p className="caution">{say(copy)}</p>}
      <div className="grid items-start gap-4 lg:grid-cols-2">
        <Items state="missing" items={items} />
        <div className="space-y-4">
          <Items state="accepted" items={items} />
          <Items state="proved" items={items} />
          <HandoverVersions desk={desk} />
          <Reports jobId={id} />
          <OwnerLinkPart />
          <DeadlinesPart />
          <LogCheck />
          <ServicePart isKept={(desk.handovers?.versions.length ?? 0) > 0} />
        </div>
      </div>
    </div>
  );
}

/** The proof as a document. */
function Reports({ jobId }: { jobId: string }) {
  return (
    <section aria-label="Report" className="panel space-y-2 p-3">
      <h3 className="text-lg font-bold">Report</h3>
      <p className="text-sm">
        What is proved and by what, and what is missing. Each page has the fingerprint of its data. The bundle is a zip
        with report, job, log, photographs and tables: it can be checked by anyone, and brought in again under Jobs.
      </p>
      <div className="flex flex-wrap gap-2">
        {REPORTS.map(({ query, name }) => (
          <a
            key={query}
            className="btn press"
            href={`/api/v1/jobs/${jobId}/report.pdf?${query}`}
            target="_blank"
            rel="noreferrer"
          >
            <FileText size={18} aria-hidden />
            {name}
          </a>
        ))}
        <a className="btn press" href={`/api/v1/jobs/${jobId}/report.json`} download>
          Its data
        </a>
        <a className="btn press" href={`/api/v1/jobs/${jobId}/handover.zip`} download>
          <Package size={18} aria-hidden />
          Everything as a bundle
        </a>
      </div>
    </section>
  );
}

function Items({ state, items }: { state: HandoverItem["state"]; items: readonly HandoverItem[] }) {
  const { title } = LOOKS[state];
  const own = items.filter((item) => item.state === state);
  if (own.length === 0) return null;
  return (
    <section aria-label={title} className="min-w-0">
      <h3 className="mb-1 text-lg font-bold">
        {title} ({own.length})
      </h3>
      <ul className="space-y-2">
        {own.map((item) => (
          <li key={item.id}>
            <ItemLine item={item} />
          </li>
        ))}
      </ul>
    </section>
  );
}

function ItemLine({ item: { state, what, why, stage, step } }: { item: HandoverItem }) {
  const { id } = useJob();
  const say = useSay();
  const { Icon, colour, word } = LOOKS[state];
  const name = STAGES.find((own) => own.id === stage)?.name ?? stage;
  const href = `/jobs/${id}/${stage}${step === undefined ? "" : `?step=${encodeURIComponent(step)}`}`;
  return (
    <div className="panel flex flex-wrap items-start gap-2 p-2">
      <Icon size={18} className={`mt-1 shrink-0 ${colour}`} aria-hidden />
      <div className="min-w-0 flex-1 basis-56">
        <p className="font-semibold">
          <span className="sr-only">{word}: </span>
          {say(what)}
        </p>
        <p className="quiet text-sm">{say(why)}</p>
      </div>
      {state !== "proved" && (
        <StageLink className="btn press" href={href}>
          {name}
          <ArrowRight size={16} aria-hidden />
        </StageLink>
      )}
    </div>
  );
}
