"use client";

import { useCallback, useEffect, useState } from "react";
import { z } from "zod";
import {
  benchSchema,
  benchStatusSchema,
  jobBenchSchema,
  type BenchChange,
  type BenchRequest,
  type BenchStatus,
} from "@/core/bench/benchSchema";
import { callApi, UNREACHABLE, type ApiProblem } from "@/ui/parts/server/apiClient";

const ASK_EVERY_MS = 1_000;

/** The bench of a job as it stands, and what can be done with it. */
export interface BenchDesk {
  readonly bench: BenchStatus | undefined;
  /** Nobody knows yet whether there is one. */
  readonly isAsked: boolean;
  readonly problem: ApiProblem | undefined;
  readonly start: (request: Partial<BenchRequest>) => Promise<void>;
  readonly change: (change: Partial<BenchChange>) => Promise<void>;
  readonly end: () => Promise<void>;
}

/** Look at a job's bench once a second while somebody sees the page. */
export function useBench(jobId: string): BenchDesk {
  const [bench, setBench] = useState<BenchStatus | undefined>();
  const [isAsked, setIsAsked] = useState(false);
  const [problem, setProblem] = useState<ApiProblem | undefined>();
  const path = `/api/v1/jobs/${jobId}/bench`;
  const look = useCallback(async () => {
    try {
      const answer = await callApi("GET", path, jobBenchSchema);
      setBench(answer.kind === "ok" ? (answer.value.running ?? undefined) : undefined);
      if (answer.kind === "failed") setProblem(answer.problem);
    } catch {
      setBench(undefined);
    }
    setIsAsked(true);
  }, [path]);
  useEffect(() => {
    const first = window.setTimeout(() => void look());
    const timer = window.setInterval(() => document.visibilityState === "visible" && void look(), ASK_EVERY_MS);
    return () => {
      window.clearTimeout(first);
      window.clearInterval(timer);
    };
  }, [look]);

  const send = async <S extends z.ZodType>(
    method: "POST" | "PATCH" | "DELETE",
    to: string,
    schema: S,
    body?: object,
  ): Promise<void> => {
    try {
      const answer = await callApi(method, to, schema, body && JSON.stringify(body));
      setProblem(answer.kind === "failed" ? answer.problem : undefined);
    } catch {
      setProblem(UNREACHABLE);
    }
    await look();
  };
  const own = `${path}/${bench?.bench.id ?? ""}`;
  return {
    bench,
    isAsked,
    problem,
    start: (request) => send("POST", path, benchSchema, request),
    change: (change) => send("PATCH", own, benchStatusSchema, change),
    end: () => send("DELETE", own, z.undefined()),
  };
}
