"use client";

import { useEffect, useMemo, useState, useSyncExternalStore } from "react";
import type { JobDocument } from "@/core/job/jobDocument";
import { runSheet, type RunSheet } from "@/core/procedure/runSheet";
import { runState, type RunState } from "@/core/procedure/runState";
import { browserRun, serverRun } from "@/ui/workspace/visit/browserRun";
import { browserClock } from "@/ui/workspace/safekeeping/browserDesk";
import { RunRecorder, type RunSnapshot } from "@/ui/workspace/visit/runRecorder";

/** How often a page that is looked at asks what others recorded; an answer without news is empty. */
const LOOK_EVERY_MS = 5_000;

/** The run sheet of the open job, and where it stands. */
export interface RunWork {
  readonly recorder: RunRecorder;
  readonly log: RunSnapshot;
  readonly sheet: RunSheet;
  readonly state: RunState;
}

/** The visit's log lives as long as the job is open; the sheet follows the plan. */
export function useRun(jobId: string, { site, kits, links, run, job }: JobDocument): RunWork {
  const [recorder] = useState(() => new RunRecorder(jobId, serverRun, browserRun, browserClock));
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
  const sheet = useMemo(() => runSheet({ site, kits, links, run, job }), [site, kits, links, run, job]);
  const state = useMemo(() => runState(sheet, log.entries), [sheet, log.entries]);
  return useMemo(() => ({ recorder, log, sheet, state }), [recorder, log, sheet, state]);
}
