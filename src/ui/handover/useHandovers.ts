"use client";

import { useEffect, useState } from "react";
import { handoversSchema, type Handovers } from "@/core/handover/version/handoverVersion";
import type { Signature } from "@/core/handover/version/signature";
import { useConnected } from "@/ui/parts/browser/useConnected";
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
  const isConnected = useConnected();
  useEffect(() => {
    // With each saved revision the report may say something else; without a connection nothing is said of it.
    if (!isConnected) return;
    void callApi("GET", path, handoversSchema)
      .then((answer) => answer.kind === "ok" && setHandovers(answer.value))
      .catch(() => undefined);
  }, [path, revision, isConnected]);
  const refresh = async () => {
    const answer = await callApi("GET", path, handoversSchema).catch(() => undefined);
    if (answer?.kind === "ok") setHandovers(answer.value);
  };
  const make: HandoverDesk["make"] = async (person, sha256, signatures) => {
    const asked = { person, sha256, signatures };
    const body = JSON.stringify({ id: idFor(JSON.stringify(asked)), ...asked });
    const answer = await callApi("POST", path, handoversSchema, body).catch(() => undefined);
    if (answer?.kind === "ok") {
      done();
      setProblem(undefined);
      setHandovers(answer.value);
      return true;
    }
    setProblem((answer?.problem ?? UNREACHABLE).message);
    // What was looked at is not what there is any more: what changed is shown, and can be signed next.
    await refresh();
    return false;
  };
  return { handovers, problem, make };
}
