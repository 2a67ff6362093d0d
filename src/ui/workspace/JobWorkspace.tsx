"use client";

import { useEffect, useMemo, useState, useSyncExternalStore, type ReactNode } from "react";
import { sortFindings } from "@/core/job/openFindings";
import { placeFindings } from "@/core/job/placeFindings";
import { planFindings } from "@/core/job/planFindings";
import type { Kit } from "@/core/kits/kitSchema";
import { controlFindings, limitState } from "@/core/controlOfPlan/controlFindings";
import { nextThing } from "@/core/job/jobSummary";
import { proveFindings } from "@/core/job/proveFindings";
import { wireFindings } from "@/core/job/wireFindings";
import { browserClock, browserDrafts, serverTransport } from "@/ui/workspace/browserDesk";
import { CommandPalette } from "@/ui/workspace/CommandPalette";
import { ConflictPanel } from "@/ui/workspace/ConflictPanel";
import { FindingsDrawer } from "@/ui/workspace/FindingsDrawer";
import { JobEditor, type ServerJob } from "@/ui/workspace/jobEditor";
import { Spine } from "@/ui/workspace/Spine";
import { useRun } from "@/ui/workspace/useRun";
import { useDiagnosis } from "@/ui/workspace/useDiagnosis";
import { WorkspaceContext } from "@/ui/workspace/workspaceContext";
import { WorkspaceHeader } from "@/ui/workspace/WorkspaceHeader";

/** One open job: spine, header, and the stage that is shown. The job lives here while its stages change. */
export function JobWorkspace({ job: loaded, library, children }: { job: ServerJob; library: readonly Kit[]; children: ReactNode }) {
  const [editor] = useState(() => new JobEditor(loaded, serverTransport, browserDrafts, browserClock));
  const job = useSyncExternalStore(editor.subscribe, editor.getSnapshot, editor.getSnapshot);
  const diagnosis = useDiagnosis(job.document);
  const run = useRun(loaded.id, job.document);
  const [showFindings, setShowFindings] = useState(false);
  useEditorLife(editor);

  const { document } = job;
  const { site, tests, kits, links, network, limit, accepted } = document;
  const plan = useMemo(() => planFindings({ site, kits }), [site, kits]);
  const place = useMemo(() => placeFindings(site), [site]);
  const wire = useMemo(() => wireFindings({ site, kits, links, network }), [site, kits, links, network]);
  const control = useMemo(() => controlFindings({ site, kits, links, limit }), [site, kits, links, limit]);
  const hasReadings = tests.steps.some((step) => step.readings.length > 0);
  const verdict = hasReadings ? diagnosis.diagnosis : undefined;
  const prove = useMemo(() => (verdict ? proveFindings(site, verdict) : []), [site, verdict]);
  const findings = useMemo(() => sortFindings([...plan, ...place, ...wire, ...run.findings, ...control, ...prove], accepted), [plan, place, wire, run.findings, control, prove, accepted]);
  const workspace = useMemo(() => ({ editor, job, diagnosis, run, findings, library }), [editor, job, diagnosis, run, findings, library]);
  const toggleFindings = () => setShowFindings(!showFindings);
  const next = nextThing(document, findings.open.filter((finding) => !["prove", "limit", "divert"].includes(finding.stage)), verdict);

  return (
    <WorkspaceContext.Provider value={workspace}>
      <div className="flex h-dvh flex-col">
        <WorkspaceHeader findings={findings.open} next={next} onFindings={toggleFindings} findingsShown={showFindings} />
        {job.status.kind === "conflict" && <ConflictPanel theirs={job.status.theirs} />}
        <div className="flex min-h-0 flex-1 max-md:flex-col-reverse">
          <Spine jobId={job.id} findings={findings.open} links={links.length} run={run.progress} limitState={limitState(document)} hasReadings={hasReadings} verdict={verdict?.verdict} />
          <main className="min-h-0 min-w-0 flex-1 overflow-auto">{children}</main>
          {showFindings && <FindingsDrawer jobId={job.id} findings={findings} onClose={() => setShowFindings(false)} />}
        </div>
        <CommandPalette onFindings={toggleFindings} />
      </div>
    </WorkspaceContext.Provider>
  );
}

/** Take up a draft when the page opens; save what waits when it goes, when the connection is back, and look again when it is shown. */
function useEditorLife(editor: JobEditor): void {
  useEffect(() => {
    editor.takeUpDraft();
    void editor.refresh();
    const flush = () => void editor.flush();
    const look = () => (document.visibilityState === "visible" ? void editor.refresh() : flush());
    window.addEventListener("online", flush);
    window.addEventListener("pagehide", flush);
    document.addEventListener("visibilitychange", look);
    return () => {
      window.removeEventListener("online", flush);
      window.removeEventListener("pagehide", flush);
      document.removeEventListener("visibilitychange", look);
      flush();
    };
  }, [editor]);
}
