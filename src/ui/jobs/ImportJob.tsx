"use client";

import { useRouter } from "next/navigation";
import { useState } from "react";
import { madeJobSchema } from "@/core/answers/jobAnswers";
import { callApi, sendApi, UNREACHABLE, type ApiProblem } from "@/ui/parts/server/apiClient";
import { ProblemList } from "@/ui/parts/show/ProblemList";
import { useRepeatableId } from "@/ui/parts/server/useRepeatableId";
import { JOBS_WORDS } from "@/ui/words/jobsWords";

const BUNDLE_TIMEOUT_MS = 10 * 60_000;

/** Bring in a job file or a bundle: all of it, or a list of everything that is wrong with it. */
export function ImportJob({ onClose }: { onClose: () => void }) {
  const router = useRouter();
  const [problem, setProblem] = useState<ApiProblem | undefined>();
  const [busy, setBusy] = useState(false);
  const { idFor, done } = useRepeatableId();

  const bring = async (file: File | undefined) => {
    if (!file) return;
    setBusy(true);
    setProblem(undefined);
    const answer = await (isBundle(file) ? bringBundle(file, idFor) : bringJob(file, idFor)).catch(() => undefined);
    setBusy(false);
    if (answer?.kind === "ok") {
      done();
      router.push(`/jobs/${answer.value.id}/place`);
    } else setProblem(answer ? answer.problem : UNREACHABLE);
  };

  return (
    <section className="panel space-y-3 p-4" aria-label={JOBS_WORDS.importAJob}>
      <label className="block">
        <span className="mb-1 block font-semibold">{JOBS_WORDS.aJobFileJsonOrABundleOfAHandOver}</span>
        <input
          type="file"
          accept=".json,application/json,.zip,application/zip"
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
        {JOBS_WORDS.close}
      </button>
    </section>
  );
}

type IdFor = (request: string) => string;

function isBundle({ name, type }: File): boolean {
  return type === "application/zip" || name.toLowerCase().endsWith(".zip");
}

async function bringJob(file: File, idFor: IdFor) {
  const text = await file.text();
  return callApi("POST", `/api/v1/jobs/import?id=${idFor(text)}`, madeJobSchema, text);
}

/** Sent as it lies on the disk: a bundle may be larger than what fits into a page's memory. */
async function bringBundle(file: File, idFor: IdFor) {
  const id = idFor(`${file.name} ${file.size} ${file.lastModified}`);
  const path = `/api/v1/jobs/import-bundle?id=${id}`;
  return sendApi("POST", path, madeJobSchema, file, "application/zip", BUNDLE_TIMEOUT_MS);
}
