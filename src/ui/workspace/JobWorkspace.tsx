"use client";

import { useEffect, useMemo, useState, useSyncExternalStore, type ReactNode } from "react";
import { sortFindings } from "@/core/job/openFindings";
import type { Kit } from "@/core/kits/kitSchema";
import { readJsonText, type JsonText } from "@/core/jsonText";
import type { JobDocument } from "@/core/job/jobDocument";
import { namesGiven } from "@/core/job/namesGiven";
import { nextThing } from "@/core/jobSummary";
import { hasReadings } from "@/core/stages";
import { NamesGiven } from "@/ui/parts/browser/useNumberStyle";
import { browserClock, serverTransport } from "@/ui/workspace/safekeeping/browserDesk";
import { BrowserDrafts } from "@/ui/workspace/safekeeping/browserDrafts";
import { CommandPalette } from "@/ui/workspace/frame/CommandPalette";
import { ConflictPanel } from "@/ui/workspace/safekeeping/ConflictPanel";
import { FindingsDrawer } from "@/ui/workspace/frame/FindingsDrawer";
import { JobBoundary } from "@/ui/workspace/safekeeping/JobBoundary";
import { JobEditor, type ServerJob } from "@/ui/workspace/safekeeping/jobEditor";
import { Spine } from "@/ui/workspace/frame/Spine";
import { UnreadableDrafts } from "@/ui/workspace/safekeeping/UnreadableDrafts";
import { useVisitLog } from "@/ui/workspace/visit/useVisit";
import { useDiagnosis } from "@/ui/workspace/useDiagnosis";
import { useWorkedOut } from "@/ui/workspace/useWorkedOut";
import { JobContexts } from "@/ui/workspace/JobContexts";
import { WorkspaceHeader } from "@/ui/workspace/frame/WorkspaceHeader";

/**
 * Devices, equipment and inputs of a job whose pages the server still works out: each view takes it about a tenth of a
 * second.
 */
const MOST_ON_SERVER = 40;

interface Props {
  /** Job and library come as text: React would write them into the page and read them again object by object. */
  readonly job: JsonText<ServerJob>;
  readonly library: JsonText<readonly Kit[]>;
  readonly children: ReactNode;
}

/** One open job. The editor lives outside what could fail with what was typed, so that it can always be taken back. */
export function JobWorkspace({ job: jobText, library: libraryText, children }: Props) {
  const [job] = useState(() => readJsonText(jobText));
  const library = useMemo(() => readJsonText(libraryText), [libraryText]);
  const [drafts] = useState(() => new BrowserDrafts(job.id));
  const [editor] = useState(() => new JobEditor(job, serverTransport, drafts, browserClock));
  useEditorLife(editor, drafts);
  const isInBrowser = useSyncExternalStore(
    subscribeNever,
    () => true,
    () => false,
  );
  if (!isInBrowser && isLarge(job.document))
    return <p role="status" className="p-6">{`Opening ${job.document.job.name} …`}</p>;
  return (
    <JobBoundary what="This job" editor={editor} drafts={drafts}>
      <OpenJob editor={editor} drafts={drafts} library={library}>
        {children}
      </OpenJob>
    </JobBoundary>
  );
}

/**
 * Whether a job is so large that its browser works its pages out alone: what one person computes for themselves, the
 * server need not compute for them while others wait.
 */
function isLarge({ site }: JobDocument): boolean {
  const inputs = site.meters.reduce((sum, meter) => sum + meter.inputs.length, 0);
  return site.nodes.length + site.equipment.length + inputs > MOST_ON_SERVER;
}

function subscribeNever(): () => void {
  return () => undefined;
}

interface OpenProps {
  readonly editor: JobEditor;
  readonly drafts: BrowserDrafts;
  readonly library: readonly Kit[];
  readonly children: ReactNode;
}

/** Spine, header, and the stage that is shown. The job lives here while its stages change. */
function OpenJob({ editor, drafts, library, children }: OpenProps) {
  const job = useSyncExternalStore(editor.subscribe, editor.getSnapshot, editor.getSnapshot);
  const { document } = job;
  const diagnosis = useDiagnosis(document);
  const { recorder, log } = useVisitLog(job.id);
  const verdict = hasReadings(document) ? diagnosis.diagnosis : undefined;
  const { view, findings: found } = useWorkedOut(document, log.entries, verdict);
  const [showFindings, setShowFindings] = useState(false);
  const findings = useMemo(() => sortFindings(found, document.accepted), [found, document.accepted]);
  const visit = useMemo(
    () => ({ recorder, log, sheet: view.sheet, state: view.visit }),
    [recorder, log, view.sheet, view.visit],
  );
  const names = useMemo(() => namesGiven(document), [document]);
  const toggleFindings = () => setShowFindings(!showFindings);
  const next = nextThing(document, findings.open, view.diagnosis);

  return (
    <JobContexts editor={editor} job={job} diagnosis={diagnosis} visit={visit} findings={findings} library={library}>
      <NamesGiven.Provider value={names}>
        <div className="flex h-dvh flex-col">
          <WorkspaceHeader
            findings={findings.open}
            next={next}
            onFindings={toggleFindings}
            findingsShown={showFindings}
          />
          <UnreadableDrafts jobId={job.id} drafts={drafts} />
          {job.status.kind === "conflict" && <ConflictPanel theirs={job.status.theirs} />}
          <div className="flex min-h-0 flex-1 max-md:flex-col-reverse">
            <Spine jobId={job.id} view={view} findings={findings.open} />
            <main className="min-h-0 min-w-0 flex-1 overflow-auto">
              <JobBoundary what="This stage" editor={editor} drafts={drafts}>
                {children}
              </JobBoundary>
            </main>
            {showFindings && (
              <FindingsDrawer jobId={job.id} findings={findings} onClose={() => setShowFindings(false)} />
            )}
          </div>
          <CommandPalette onFindings={toggleFindings} />
        </div>
      </NamesGiven.Provider>
    </JobContexts>
  );
}

/**
 * Take up drafts when the page opens; save what waits when it goes, when the connection is back, and look again when it
 * is shown.
 */
function useEditorLife(editor: JobEditor, drafts: BrowserDrafts): void {
  useEffect(() => {
    const release = drafts.hold();
    void editor.open();
    const flush = () => void editor.flush();
    const look = () => (document.visibilityState === "visible" ? void editor.refresh() : flush());
    // A page that Back brings out of the browser's memory shows what was there when it was left.
    const shown = ({ persisted }: PageTransitionEvent) => {
      if (persisted) void editor.refresh();
    };
    window.addEventListener("online", flush);
    window.addEventListener("pagehide", flush);
    window.addEventListener("pageshow", shown);
    document.addEventListener("visibilitychange", look);
    return () => {
      window.removeEventListener("online", flush);
      window.removeEventListener("pagehide", flush);
      window.removeEventListener("pageshow", shown);
      document.removeEventListener("visibilitychange", look);
      void editor.close().finally(release);
    };
  }, [editor, drafts]);
}
