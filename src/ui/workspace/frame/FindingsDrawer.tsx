"use client";

import { X } from "lucide-react";
import { useState } from "react";
import type { Finding } from "@/core/findings";
import { acceptanceReasonSchema } from "@/core/job/jobDocument";
import { acceptFinding, withdrawAcceptance, type SortedFindings } from "@/core/job/openFindings";
import { STAGES } from "@/core/stages";
import { TextForm } from "@/ui/parts/form/TextForm";
import { FindingMark } from "@/ui/parts/show/FindingMark";
import { usePerson } from "@/ui/parts/browser/usePerson";
import { useSaid } from "@/ui/parts/browser/useNumberStyle";
import { useWhen } from "@/ui/parts/browser/useWhen";
import { placeOf, StageLink } from "@/ui/workspace/frame/stageMoves";
import { useEditor } from "@/ui/workspace/workspaceContext";
import { WORKSPACE_WORDS } from "@/ui/words/workspaceWords";

const SEVERITIES = ["stop", "fix", "note"] as const;

/**
 * Every finding of the job by stage, worst first, each with its cure, its source, and the way to its place; those let
 * stand below.
 */
export function FindingsDrawer({
  jobId,
  findings,
  onClose,
}: {
  jobId: string;
  findings: SortedFindings;
  onClose: () => void;
}) {
  const stages = STAGES.filter(({ id }) => findings.open.some((finding) => finding.stage === id));
  return (
    <aside
      aria-label={WORKSPACE_WORDS.findings}
      className={
        "w-96 flex-none overflow-auto border-l border-base-300 bg-base-200 p-3 max-md:absolute " +
        "max-md:inset-x-0 max-md:bottom-0 max-md:top-24 max-md:z-30 max-md:w-full"
      }
    >
      <div className="flex items-center justify-between">
        <h2 className="text-lg font-bold">{WORKSPACE_WORDS.findings}</h2>
        <button type="button" className="btn btn-ghost press px-2" onClick={onClose}>
          <X size={20} aria-hidden />
          <span className="sr-only">{WORKSPACE_WORDS.closeFindings}</span>
        </button>
      </div>
      {findings.open.length === 0 && <p className="mt-2">{WORKSPACE_WORDS.nothingIsWrongAsFarAsItHasBeen}</p>}
      {stages.map(({ id, name }) => (
        <section key={id} aria-label={name} className="mb-4">
          <h3 className="mb-1 font-bold">{name}</h3>
          <ul className="space-y-2">
            {findings.open
              .filter((finding) => finding.stage === id)
              .toSorted((a, b) => SEVERITIES.indexOf(a.severity) - SEVERITIES.indexOf(b.severity))
              .map((finding) => (
                <li key={finding.id}>
                  <FindingCard jobId={jobId} finding={finding} />
                </li>
              ))}
          </ul>
        </section>
      ))}
      {findings.accepted.length > 0 && <AcceptedFindings accepted={findings.accepted} />}
    </aside>
  );
}

function AcceptedFindings({ accepted }: { accepted: SortedFindings["accepted"] }) {
  const when = useWhen();
  const editor = useEditor();
  const said = useSaid();
  return (
    <section aria-label={WORKSPACE_WORDS.accepted}>
      <h3 className="mb-1 font-bold">{WORKSPACE_WORDS.accepted}</h3>
      <ul className="space-y-2">
        {accepted.map(({ finding, reason, at, person }) => (
          <li key={finding.id} className="panel bg-base-100 p-3 text-sm">
            <FindingMark level={finding.severity} /> <b>{finding.title}</b>
            <p className="quiet">{said(finding.detail)}</p>
            <p>
              “{reason}”, {person && `${person}, `}
              {when(at, "full")}
            </p>
            <button
              type="button"
              className="btn btn-sm press mt-1"
              onClick={() => editor.edit((document) => withdrawAcceptance(document, finding.id))}
            >
              {WORKSPACE_WORDS.takeItBack}
              <span className="sr-only"> {finding.title}</span>
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}

function FindingCard({ jobId, finding }: { jobId: string; finding: Finding }) {
  const said = useSaid();
  return (
    <article className="panel bg-base-100 p-3">
      <p className="flex flex-wrap items-center gap-2">
        <FindingMark level={finding.severity} />
        <b className="leading-tight">{finding.title}</b>
      </p>
      <p className="mt-1 leading-snug">{said(finding.detail)}</p>
      <p className="mt-1 font-semibold leading-snug">{said(finding.cure)}.</p>
      <p className="quiet mt-1 text-sm">{finding.source}</p>
      <div className="flex flex-wrap items-center gap-x-4">
        <StageLink className="link press inline-flex items-center text-sm" href={placeOf(jobId, finding)}>
          {WORKSPACE_WORDS.showIn} {STAGES.find(({ id }) => id === finding.stage)?.name}
        </StageLink>
        {finding.severity !== "stop" && <AcceptForm finding={finding} />}
      </div>
    </article>
  );
}

/** Let a finding stand, with the reason that the report will show. */
function AcceptForm({ finding }: { finding: Finding }) {
  const editor = useEditor();
  const { person } = usePerson();
  const [isAsked, setAsked] = useState(false);
  if (!isAsked)
    return (
      <button type="button" className="link press text-sm" onClick={() => setAsked(true)}>
        {WORKSPACE_WORDS.accept}
        <span className="sr-only"> {finding.title}</span>
      </button>
    );
  return (
    <TextForm
      label={WORKSPACE_WORDS.whyMayItStand}
      schema={acceptanceReasonSchema}
      placeholder={WORKSPACE_WORDS.theReportShowsThis}
      autoFocus
      send={WORKSPACE_WORDS.acceptTitle}
      onSend={(reason) =>
        editor.edit((document) => acceptFinding(document, finding, { reason, at: new Date().toISOString(), person }))
      }
      onCancel={() => setAsked(false)}
    />
  );
}
