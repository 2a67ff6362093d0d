"use client";

import { useWhen } from "@/ui/parts/browser/useWhen";
import { Download, Send } from "lucide-react";
import { useEffect, useState } from "react";
import { cutText } from "@/core/text";
import type { VisitEntry } from "@/core/visit/visitEntry";
import { LOG_WORDS } from "@/core/visit/visitLog";
import { downloadText } from "@/ui/parts/browser/downloadText";
import { isJobPageKept } from "@/ui/parts/browser/keepApp";
import type { SaveStatus } from "@/ui/workspace/safekeeping/jobEditor";
import { useEditor, useJob, useVisitWork } from "@/ui/workspace/workspaceContext";
import { WORKSPACE_WORDS } from "@/ui/words/workspaceWords";

/** What of this job is not with the server yet, one by one, with why; sent now, or saved as a file. */
export function WaitingPanel({ onClose }: { onClose: () => void }) {
  const when = useWhen();
  const editor = useEditor();
  const job = useJob();
  const { log, recorder } = useVisitWork();
  const [isKept, setKept] = useState<boolean | undefined>();
  useEffect(() => void isJobPageKept(job.id).then(setKept, () => setKept(false)), [job.id]);
  const isPlanWaiting = job.status.kind !== "saved";
  const isNothing = !isPlanWaiting && log.waiting.length === 0;
  const sendNow = () => {
    void editor.flush();
    for (const { entry, refused } of log.waiting)
      if (refused !== undefined) void recorder.settleRefused(entry.id, "again");
    void recorder.flush();
  };
  const save = () => {
    const waiting = log.waiting.map(({ entry, refused }) => ({ entry, refused }));
    const text = JSON.stringify({ job: job.id, revision: job.revision, document: job.document, waiting }, null, 2);
    downloadText(`gormit-not-sent-${job.id}.json`, text);
  };
  return (
    <section
      aria-label={WORKSPACE_WORDS.whatIsNotSentYet}
      className="border-b border-base-300 bg-base-100 px-3 py-2 text-sm"
    >
      {isNothing ? (
        <p>
          {WORKSPACE_WORDS.everythingOfThisJobIsOnTheServer(when(job.savedAt, "second"))}
          {isKept === true && WORKSPACE_WORDS.itOpensOnThisDeviceWithout}
          {isKept === false && WORKSPACE_WORDS.itDoesNotOpenHereWithout}
        </p>
      ) : (
        <WaitingList />
      )}
      <div className="mt-1 flex flex-wrap gap-2">
        {!isNothing && (
          <>
            <button type="button" className="btn btn-sm btn-primary press" onClick={sendNow}>
              <Send size={16} aria-hidden />
              {WORKSPACE_WORDS.sendNow}
            </button>
            <button type="button" className="btn btn-sm press" onClick={save}>
              <Download size={16} aria-hidden />
              {WORKSPACE_WORDS.saveAsAFile}
            </button>
          </>
        )}
        <button type="button" className="btn btn-sm press" onClick={onClose}>
          {WORKSPACE_WORDS.close}
        </button>
      </div>
    </section>
  );
}

function WaitingList() {
  const when = useWhen();
  const { status } = useJob();
  const { log } = useVisitWork();
  return (
    <ul className="max-h-56 divide-y divide-base-300 overflow-auto">
      {status.kind !== "saved" && (
        <li className="py-1">
          <b>{WORKSPACE_WORDS.changesOfThePlanAndItsReadings}</b>: {planWords(status)}
        </li>
      )}
      {log.waiting.map(({ entry, photo, refused }) => (
        <li key={entry.id} className="py-1">
          <time className="reading" dateTime={entry.at}>
            {when(entry.at, "clock")}
          </time>{" "}
          <b>{LOG_WORDS[entry.kind]}</b> {wordsOf(entry)}
          {photo && WORKSPACE_WORDS.kB(Math.max(1, Math.round(photo.size / 1000)))}
          {refused !== undefined && (
            <span className="font-semibold text-error"> {WORKSPACE_WORDS.notTaken(refused)}</span>
          )}
        </li>
      ))}
    </ul>
  );
}

function planWords(status: SaveStatus): string {
  switch (status.kind) {
    case "refused":
      return WORKSPACE_WORDS.notTakenOf(status.message);
    case "conflict":
      return WORKSPACE_WORDS.changedElsewhereTooChooseAbove;
    case "waiting":
      return status.isKept ? WORKSPACE_WORDS.keptHereSentWhenTheServerAnswers : WORKSPACE_WORDS.onThisPageOnly;
    case "saving":
      return WORKSPACE_WORDS.onTheWay;
    case "saved":
      return "saved";
  }
}

function wordsOf(entry: VisitEntry): string {
  if ("title" in entry) return entry.title;
  return `“${cutText(entry.text, 60)}”`;
}
