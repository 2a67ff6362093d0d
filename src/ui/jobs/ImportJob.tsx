"use client";

import { useRouter } from "next/navigation";
import { useState } from "react";
import { madeJobSchema } from "@/core/answers/jobAnswers";
import { callApi, UNREACHABLE, type ApiProblem } from "@/ui/parts/server/apiClient";
import { ProblemList } from "@/ui/parts/show/ProblemList";
import { useRepeatableId } from "@/ui/parts/server/useRepeatableId";

/** Bring in a gormit-job file: all of it, or a list of everything that is wrong with it. */
export function ImportJob({ onClose }: { onClose: () => void }) {
  const router = useRouter();
  const [problem, setProblem] = useState<ApiProblem | undefined>();
  const [busy, setBusy] = useState(false);
  const { idFor, done } = useRepeatableId();

  const bring = async (file: File | undefined) => {
    if (!file) return;
    setBusy(true);
    setProblem(undefined);
    const answer = await file
      .text()
      .then((text) => callApi("POST", `/api/v1/jobs/import?id=${idFor(text)}`, madeJobSchema, text))
      .catch(() => undefined);
    setBusy(false);
    if (answer?.kind === "ok") {
      done();
      router.push(`/jobs/${answer.value.id}/place`);
    } else setProblem(answer ? answer.problem : UNREACHABLE);
  };

  return (
    <section className="panel space-y-3 p-4" aria-label="Import a job">
      <label className="block">
        <span className="mb-1 block font-semibold">A gormit-job file (JSON)</span>
        <input
          type="file"
          accept=".json,application/json"
          className="file-input w-full max-w-md"
          disabled={busy}
          onChange={(event) => {
            const input = event.currentTarget;
            // Cleared, so that the same file can be chosen again after it was mended.
            void bring(input.files?.[0]).finally(() => {
              input.value = "";
            });
          }}
        />
      </label>
      {problem && <ProblemList problem={problem} />}
      <button type="button" className="btn press" onClick={onClose}>
        Close
      </button>
    </section>
  );
}
