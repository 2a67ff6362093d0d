"use client";

import { useCallback, useEffect, useState } from "react";
import { handoversSchema, type Handovers } from "@/core/handover/version/handoverVersion";
import type { Signature } from "@/core/handover/version/signature";
import { callApi, UNREACHABLE } from "@/ui/parts/server/apiClient";
import { useRepeatableId } from "@/ui/parts/server/useRepeatableId";
import { useJob } from "@/ui/workspace/workspaceContext";

/** The hand overs of the open job as the server has them, and the making of another one. */
export interface HandoverDesk {
  readonly handovers: Handovers | undefined;
  readonly problem: string | undefined;
  /** @returns Whether it was made. */
  readonly make: (person: string, sha256: string, signatures: readonly Signature[]) => Promise<boolean>;
}

/** Binds the hand overs of the open job to the page. */
export function useHandovers(): HandoverDesk {
  const { id, revision } = useJob();
  const path = `/api/v1/jobs/${id}/handovers`;
  const [handovers, setHandovers] = useState<Handovers | undefined>();
  const [problem, setProblem] = useState<string | undefined>();
  const { idFor, done } = useRepeatableId();
  const call = useCallback(
    async (method: "GET" | "POST", body?: string): Promise<boolean> => {
      try {
        const answer = await callApi(method, path, handoversSchema, body);
        setProblem(answer.kind === "failed" ? answer.problem.message : undefined);
        if (answer.kind === "ok") setHandovers(answer.value);
        return answer.kind === "ok";
      } catch {
        setProblem(UNREACHABLE.message);
        return false;
      }
    },
    [path],
  );
  useEffect(() => {
    // With each saved revision the report may say something else.
    void call("GET");
  }, [call, revision]);
  const make: HandoverDesk["make"] = async (person, sha256, signatures) => {
    const asked = { person, sha256, signatures };
    const isMade = await call("POST", JSON.stringify({ id: idFor(JSON.stringify(asked)), ...asked }));
    // What was looked at is not what there is any more: what changed is shown, and can be signed next.
    if (isMade) done();
    else await refresh();
    return isMade;
  };
  const refresh = async () => {
    const answer = await callApi("GET", path, handoversSchema).catch(() => undefined);
    if (answer?.kind === "ok") setHandovers(answer.value);
  };
  return { handovers, problem, make };
}
