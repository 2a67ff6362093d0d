"use client";

import { useEffect, useMemo, useState, useSyncExternalStore } from "react";
import type { VisitSheet } from "@/core/visit/visitSheet";
import type { VisitState } from "@/core/visit/visitState";
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

/** The visit's log, which lives as long as the job is open. */
export function useVisitLog(jobId: string): Pick<VisitWork, "recorder" | "log"> {
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
  return useMemo(() => ({ recorder, log }), [recorder, log]);
}
