"use client";

import { useEffect, useMemo, useState, useSyncExternalStore } from "react";
import type { JobDocument } from "@/core/job/jobDocument";
import { visitSheet, type VisitSheet } from "@/core/visit/visitSheet";
import { visitState, type VisitState } from "@/core/visit/visitState";
import { browserVisit, serverVisit } from "@/ui/workspace/visit/browserVisit";
import { browserClock } from "@/ui/workspace/safekeeping/browserDesk";
import { VisitRecorder, type VisitSnapshot } from "@/ui/workspace/visit/visitRecorder";

/** How often a page that is looked at asks what others recorded; an answer without news is empty. */
const LOOK_EVERY_MS = 5_000;

/** The run sheet of the open job, and where it stands. */
export interface VisitWork {
  readonly recorder: VisitRecorder;
  readonly log: VisitSnapshot;
  readonly sheet: VisitSheet;
  readonly state: VisitState;
}

/** The visit's log lives as long as the job is open; the sheet follows the plan. */
export function useVisit(jobId: string, { site, kits, links, visit, job }: JobDocument): VisitWork {
  const [recorder] = useState(() => new VisitRecorder(jobId, serverVisit, browserVisit, browserClock));
  const log = useSyncExternalStore(recorder.subscribe, recorder.getSnapshot, recorder.getSnapshot);
  useEffect(() => {
    void recorder.open();
    const flush = () => void recorder.flush();
    const look = () => {
      if (document.visibilityState === "visible") void recorder.refresh();
    };
    window.addEventListener("online", flush);
    document.addEventListener("visibilitychange", look);
    const timer = window.setInterval(look, LOOK_EVERY_MS);
    return () => {
      window.removeEventListener("online", flush);
      document.removeEventListener("visibilitychange", look);
      window.clearInterval(timer);
      recorder.close();
    };
  }, [recorder]);
  const sheet = useMemo(() => visitSheet({ site, kits, links, visit, job }), [site, kits, links, visit, job]);
  const state = useMemo(() => visitState(sheet, log.entries), [sheet, log.entries]);
  return useMemo(() => ({ recorder, log, sheet, state }), [recorder, log, sheet, state]);
}
