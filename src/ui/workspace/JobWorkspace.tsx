"use client";

import { useEffect, useMemo, useState, useSyncExternalStore, type ReactNode } from "react";
import { sortFindings } from "@/core/job/openFindings";
import type { Kit } from "@/core/kits/kitSchema";
import { readJsonText, type JsonText } from "@/core/jsonText";
import type { JobDocument } from "@/core/job/jobDocument";
import { namesGiven } from "@/core/job/namesGiven";
import { nextThing } from "@/core/jobSummary";
import { hasReadings } from "@/core/stages";
import { keepJobPage } from "@/ui/parts/browser/keepApp";
import { lengthsOfSupply } from "@/core/numberStyle";
import { LengthsHere, NamesGiven } from "@/ui/parts/browser/useNumberStyle";
import { browserClock, serverTransport } from "@/ui/workspace/safekeeping/browserDesk";
import { BrowserDrafts } from "@/ui/workspace/safekeeping/browserDrafts";
import { CommandPalette } from "@/ui/workspace/frame/CommandPalette";
import { ConflictPanel } from "@/ui/workspace/safekeeping/ConflictPanel";
import { FindingsDrawer } from "@/ui/workspace/frame/FindingsDrawer";
import { JobBoundary } from "@/ui/workspace/safekeeping/JobBoundary";
import { BrowserSteps } from "@/ui/workspace/safekeeping/browserSteps";
import { keepJob, keptJob } from "@/ui/workspace/safekeeping/keptJobs";
import { JobEditor, type ServerJob } from "@/ui/workspace/safekeeping/jobEditor";
import { MergedNote } from "@/ui/workspace/safekeeping/MergedNote";
import { Spine } from "@/ui/workspace/frame/Spine";
import { UnreadableDrafts } from "@/ui/workspace/safekeeping/UnreadableDrafts";
import { WaitingPanel } from "@/ui/workspace/safekeeping/WaitingPanel";
import { useVisitLog } from "@/ui/workspace/visit/useVisit";
import { useDiagnosis } from "@/ui/workspace/useDiagnosis";
import { useWorkedOut } from "@/ui/workspace/useWorkedOut";
import { JobContexts } from "@/ui/workspace/JobContexts";
import { WorkspaceHeader } from "@/ui/workspace/frame/WorkspaceHeader";
import { WORKSPACE_WORDS } from "@/ui/words/workspaceWords";

/**
 * Devices, equipment and inputs of a job whose pages the server still works out: each view takes it about a tenth of a
 * second.
 */
const MOST_ON_SERVER = 40;
const TAKE_UP_EVERY_MS = 3_000;
const KEEP_AFTER_MS = 2_000;

interface Props {
  /** Job and library come as text: React would write them into the page and read them again object by object. */
  readonly job: JsonText<ServerJob>;
  readonly library: JsonText<readonly Kit[]>;
  /** A page that is kept for where there is no connection: its browser shows the stage, of the job as it was last. */
  readonly isFrame?: boolean;
  readonly children: ReactNode;
}

/** One open job, of what the server sent or, where that may be old, of what this browser knows better. */
export function JobWorkspace({ job: jobText, library: libraryText, isFrame = false, children }: Props) {
  const [served] = useState(() => readJsonText(jobText));
  const library = useMemo(() => readJsonText(libraryText), [libraryText]);
  const [latest, setLatest] = useState(isFrame ? undefined : served);
  useEffect(() => {
    if (!isFrame) return;
    void keptJob(served.id).then((kept) => setLatest(kept && kept.revision > served.revision ? kept : served));
  }, [isFrame, served]);
  const isInBrowser = useSyncExternalStore(
    subscribeNever,
    () => true,
    () => false,
  );
  if (!latest || (!isInBrowser && isLarge(latest.document)))
    return (
      <p role="status" className="p-6">
        {WORKSPACE_WORDS.opening(served.document.job.name)}
      </p>
    );
  return (
    <EditedJob job={latest} library={library}>
      {children}
    </EditedJob>
  );
}

interface EditedProps {
  readonly job: ServerJob;
  readonly library: readonly Kit[];
  readonly children: ReactNode;
}

/** The editor lives outside what could fail with what was typed, so that it can always be taken back. */
function EditedJob({ job, library, children }: EditedProps) {
  const [drafts] = useState(() => new BrowserDrafts(job.id));
  const [editor] = useState(() => new JobEditor(job, serverTransport, drafts, browserClock, new BrowserSteps(job.id)));
  useEditorLife(editor, drafts);
  useKept(editor);
  return (
    <JobBoundary what={WORKSPACE_WORDS.thisJob} editor={editor} drafts={drafts}>
      <OpenJob editor={editor} drafts={drafts} library={library}>
        {children}
      </OpenJob>
    </JobBoundary>
  );
}

/** Keep the job in this browser as the server has it, and its page, for where there is no connection. */
function useKept(editor: JobEditor): void {
  useEffect(() => {
    const { id } = editor.getSnapshot();
    let last = -1;
    const keep = () => {
      const { status, document, revision, savedAt } = editor.getSnapshot();
      if (status.kind !== "saved" || revision === last) return;
      last = revision;
      void keepJob({ id, document, revision, savedAt });
    };
    keep();
    // Whoever only passes by asks nothing more of the server.
    const timer = window.setTimeout(() => void keepJobPage(id), KEEP_AFTER_MS);
    const stop = editor.subscribe(keep);
    return () => {
      window.clearTimeout(timer);
      stop();
    };
  }, [editor]);
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
  const [showWaiting, setShowWaiting] = useState(false);
  const [showFindings, setShowFindings] = useState(false);
  const findings = useMemo(() => sortFindings(found, document.accepted), [found, document.accepted]);
  const visit = useMemo(
    () => ({ recorder, log, sheet: view.sheet, state: view.visit }),
    [recorder, log, view.sheet, view.visit],
  );
  const names = useMemo(() => namesGiven(document), [document]);
  const toggleFindings = () => setShowFindings(!showFindings);
  const next = nextThing(view, findings.open);

  return (
    <JobContexts editor={editor} job={job} diagnosis={diagnosis} visit={visit} findings={findings} library={library}>
      <NamesGiven.Provider value={names}>
        <LengthsHere.Provider value={lengthsOfSupply(job.document.site.supply.system)}>
          <div className="flex h-dvh flex-col">
            <WorkspaceHeader
              findings={findings.open}
              next={next}
              onFindings={toggleFindings}
              findingsShown={showFindings}
              onWaiting={() => setShowWaiting(!showWaiting)}
              waitingShown={showWaiting}
            />
            {showWaiting && <WaitingPanel onClose={() => setShowWaiting(false)} />}
            <UnreadableDrafts jobId={job.id} drafts={drafts} />
            <MergedNote />
            {job.status.kind === "conflict" && <ConflictPanel conflict={job.status} />}
            <div className="flex min-h-0 flex-1 max-md:flex-col-reverse">
              <Spine jobId={job.id} view={view} findings={findings.open} />
              <main className="min-h-0 min-w-0 flex-1 overflow-auto">
                <JobBoundary what={WORKSPACE_WORDS.thisStage} editor={editor} drafts={drafts}>
                  {children}
                </JobBoundary>
              </main>
              {showFindings && (
                <FindingsDrawer jobId={job.id} findings={findings} onClose={() => setShowFindings(false)} />
              )}
            </div>
            <CommandPalette onFindings={toggleFindings} />
          </div>
        </LengthsHere.Provider>
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
    // The page before this one may still be going while this one opens; its drafts are free once it is gone.
    const again = window.setInterval(() => void editor.takeUpDrafts(), TAKE_UP_EVERY_MS);
    const flush = () => void editor.flush();
    const hide = () => {
      editor.keepSteps();
      flush();
    };
    const look = () => (document.visibilityState === "visible" ? void editor.refresh() : hide());
    // A page that Back brings out of the browser's memory shows what was there when it was left.
    const shown = ({ persisted }: PageTransitionEvent) => {
      if (persisted) void editor.refresh();
    };
    window.addEventListener("online", flush);
    window.addEventListener("pagehide", hide);
    window.addEventListener("pageshow", shown);
    document.addEventListener("visibilitychange", look);
    return () => {
      window.clearInterval(again);
      window.removeEventListener("online", flush);
      window.removeEventListener("pagehide", hide);
      window.removeEventListener("pageshow", shown);
      document.removeEventListener("visibilitychange", look);
      editor.keepSteps();
      void editor.close().finally(release);
    };
  }, [editor, drafts]);
}
