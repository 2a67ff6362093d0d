"use client";

import { Eye, Lock, Trash2 } from "lucide-react";
import { useEffect, useState } from "react";
import { z } from "zod";
import { keptSecretSchema, wifiSecretSchema, type WifiSecret } from "@/core/online/passphrase/wifiSecret";
import { useWhen } from "@/ui/parts/browser/useWhen";
import { callApi, UNREACHABLE, type ApiProblem } from "@/ui/parts/server/apiClient";
import { useJob } from "@/ui/workspace/workspaceContext";
import { ONLINE_WORDS } from "@/ui/words/onlineWords";

interface Props extends WifiSecret {
  readonly onKept: (kept: WifiSecret) => void;
}

/** Keeps a passphrase until hand over where somebody wants it, encrypted on the server; shows it on purpose only. */
export function KeptPassphrase({ name, passphrase, onKept }: Props) {
  const when = useWhen();
  const { keptAt, problem, keep, show, forget } = useKept();
  const isWhole = wifiSecretSchema.safeParse({ name, passphrase }).success;
  return (
    <div className="space-y-1 text-sm">
      <div className="flex flex-wrap items-center gap-2">
        <button type="button" className="btn press" disabled={!isWhole} onClick={() => void keep({ name, passphrase })}>
          <Lock size={18} aria-hidden />
          {ONLINE_WORDS.keepUntilHandOver}
        </button>
        {keptAt && (
          <>
            <button
              type="button"
              className="btn press"
              onClick={() => void show().then((kept) => kept && onKept(kept))}
            >
              <Eye size={18} aria-hidden />
              {ONLINE_WORDS.fetchTheOneKeptAt(when(keptAt, "minute"))}
            </button>
            <button type="button" className="btn btn-ghost press" onClick={() => void forget()}>
              <Trash2 size={18} aria-hidden />
              {ONLINE_WORDS.forgetIt}
            </button>
          </>
        )}
      </div>
      <p className="quiet">
        {keptAt ? ONLINE_WORDS.keptEncryptedOnTheServerItStands : ONLINE_WORDS.itLivesInThisPageAloneAndIsGone}
      </p>
      {problem && (
        <p role="alert" className="font-semibold text-error">
          {problem.message}
        </p>
      )}
    </div>
  );
}

function useKept() {
  const { id } = useJob();
  const path = `/api/v1/jobs/${id}/passphrase`;
  const [keptAt, setKeptAt] = useState<string | null>(null);
  const [problem, setProblem] = useState<ApiProblem | undefined>();
  useEffect(() => {
    // Without a connection none can be fetched, and nothing is said of it.
    void callApi("GET", path, keptSecretSchema)
      .then((answer) => answer.kind === "ok" && setKeptAt(answer.value.keptAt))
      .catch(() => undefined);
  }, [path]);
  const call = async <S extends z.ZodType>(
    method: "PUT" | "POST" | "DELETE",
    to: string,
    schema: S,
    body?: WifiSecret,
  ): Promise<z.output<S> | undefined> => {
    try {
      const answer = await callApi(method, to, schema, body && JSON.stringify(body));
      setProblem(answer.kind === "failed" ? answer.problem : undefined);
      return answer.kind === "ok" ? answer.value : undefined;
    } catch {
      setProblem(UNREACHABLE);
      return undefined;
    }
  };
  return {
    keptAt,
    problem,
    keep: async (secret: WifiSecret) => {
      const kept = await call("PUT", path, keptSecretSchema, secret);
      if (kept) setKeptAt(kept.keptAt);
    },
    show: () => call("POST", `${path}/shown`, wifiSecretSchema),
    forget: async () => {
      await call("DELETE", path, z.undefined());
      setKeptAt(null);
    },
  };
}
