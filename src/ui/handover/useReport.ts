"use client";

import { useEffect, useState } from "react";
import { reportAnswerSchema, type ReportAnswer } from "@/core/handover/report/reportSchema";
import { useConnected } from "@/ui/parts/browser/useConnected";
import { callApi, UNREACHABLE } from "@/ui/parts/server/apiClient";
import { useJob, useVisitWork } from "@/ui/workspace/workspaceContext";

/** The report of the open job as the server has it: the one that a PDF, its data and a hand over are of. */
export interface ReportDesk {
  /** The newest that was heard of; while another one comes it is shown as busy. */
  readonly answer: ReportAnswer | undefined;
  readonly isBusy: boolean;
  readonly problem: string | undefined;
}

/** Binds the report of the open job to the page. @param query Form and language. */
export function useReport(query: string): ReportDesk {
  const { id, revision } = useJob();
  const lines = useVisitWork().log.entries.length;
  const isConnected = useConnected();
  const wanted = `/api/v1/jobs/${id}/report.json?${query}`;
  const [heard, setHeard] = useState<{ of: string; answer?: ReportAnswer; problem?: string } | undefined>();
  const of = `${wanted} ${revision} ${lines}`;
  useEffect(() => {
    if (!isConnected) return;
    let isWanted = true;
    void callApi("GET", wanted, reportAnswerSchema)
      .then((own) => (own.kind === "ok" ? { answer: own.value } : { problem: own.problem.message }))
      .catch(() => ({ problem: UNREACHABLE.message }))
      .then((own) => isWanted && setHeard((before) => ({ ...before, ...own, of })));
    return () => {
      isWanted = false;
    };
  }, [wanted, of, isConnected]);
  const isBusy = isConnected && heard?.of !== of;
  return { answer: heard?.answer, isBusy, problem: isBusy ? undefined : heard?.problem };
}
