"use client";

import { useEffect, useState } from "react";
import { z } from "zod";
import { privateLinkSchema, type PrivateLink } from "@/core/handover/privateLink";
import { useConnected } from "@/ui/parts/browser/useConnected";
import { callApi, UNREACHABLE } from "@/ui/parts/server/apiClient";

/** A private link that is told once, made anew and ended by a route of its own. */
export function usePrivateLink(path: string) {
  const [link, setLink] = useState<PrivateLink | undefined>();
  const isConnected = useConnected();
  const [problem, setProblem] = useState<string | undefined>();
  useEffect(() => {
    // Without a connection there is nothing to say of it.
    if (!isConnected) return;
    void callApi("GET", path, privateLinkSchema)
      .then((answer) => answer.kind === "ok" && setLink(answer.value))
      .catch(() => undefined);
  }, [path, isConnected]);
  const call = async (method: "POST" | "DELETE") => {
    try {
      const answer = await callApi(method, path, method === "POST" ? privateLinkSchema : z.undefined());
      setProblem(answer.kind === "failed" ? answer.problem.message : undefined);
      if (answer.kind === "ok") setLink(answer.value ?? { madeAt: null });
    } catch {
      setProblem(UNREACHABLE.message);
    }
  };
  return { link, problem, make: () => call("POST"), end: () => call("DELETE") };
}
