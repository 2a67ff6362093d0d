"use client";

import { Backpack, CheckCheck, LoaderCircle } from "lucide-react";
import { useEffect, useState } from "react";
import { visitLogSchema } from "@/core/answers/jobAnswers";
import { isJobPageKept, keepJobPage } from "@/ui/parts/browser/keepApp";
import { callApi } from "@/ui/parts/server/apiClient";
import { keepLog } from "@/ui/workspace/safekeeping/keptJobs";
import { JOBS_WORDS } from "@/ui/words/jobsWords";

const LOOK_EVERY_MS = 250;
const LOOK_FOR_MS = 20_000;

type State = "unknown" | "not-here" | "packing" | "here" | "failed";

/** Have a job open on this device where there is no connection: its page, its log, and its photos. */
export function TakeAlong({ id, name }: { id: string; name: string }) {
  const [state, setState] = useState<State>("unknown");
  useEffect(() => {
    let isShown = true;
    void isJobPageKept(id).then((isKept) => isShown && setState(isKept ? "here" : "not-here"));
    return () => {
      isShown = false;
    };
  }, [id]);
  const take = async () => {
    setState("packing");
    setState((await packed(id)) ? "here" : "failed");
  };
  if (state === "here")
    return (
      <span className="inline-flex min-h-11 items-center gap-1 px-1 text-sm" title={JOBS_WORDS.opensWithoutAConnection}>
        <CheckCheck size={18} aria-hidden />
        <span className="lg:sr-only">{JOBS_WORDS.onThisDevice}</span>
      </span>
    );
  const Icon = state === "packing" ? LoaderCircle : Backpack;
  return (
    <button
      type="button"
      className="btn btn-ghost btn-sm press px-0"
      disabled={state === "unknown" || state === "packing"}
      title={state === "failed" ? JOBS_WORDS.couldNotBeTakenAlongTryAgain(name) : JOBS_WORDS.takeAlong(name)}
      onClick={() => void take()}
    >
      <Icon size={18} aria-hidden />
      <span className="sr-only">
        {state === "packing" ? JOBS_WORDS.takingAlong(name) : state === "failed" ? `${JOBS_WORDS.notTakenAlong} ` : ""}
        {state !== "packing" && JOBS_WORDS.takeAlong(name)}
      </span>
    </button>
  );
}

/** Whether all of it is here by now. */
async function packed(id: string): Promise<boolean> {
  await keepJobPage(id);
  const answer = await callApi("GET", `/api/v1/jobs/${id}/visit`, visitLogSchema).catch(() => undefined);
  if (answer?.kind !== "ok") return false;
  await keepLog(id, answer.value);
  // Through the worker that stands between, which keeps what it has seen.
  await Promise.allSettled(
    answer.value.entries.flatMap((entry) =>
      entry.kind === "photo" ? [fetch(`/api/v1/jobs/${id}/photos/${entry.photo}`)] : [],
    ),
  );
  for (let waitedMs = 0; waitedMs < LOOK_FOR_MS; waitedMs += LOOK_EVERY_MS) {
    if (await isJobPageKept(id)) return true;
    await new Promise((resolve) => setTimeout(resolve, LOOK_EVERY_MS));
  }
  return false;
}
