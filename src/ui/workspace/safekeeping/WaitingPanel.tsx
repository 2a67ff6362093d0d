"use client";

import { useWhen } from "@/ui/parts/browser/useNumberStyle";
import { Download, Send } from "lucide-react";
import { useEffect, useState } from "react";
import { cutText } from "@/core/text";
import type { VisitEntry } from "@/core/visit/visitEntry";
import { LOG_WORDS } from "@/core/visit/visitLog";
import { downloadText } from "@/ui/parts/browser/downloadText";
import { isJobPageKept } from "@/ui/parts/browser/keepApp";
import type { SaveStatus } from "@/ui/workspace/safekeeping/jobEditor";
import { useEditor, useJob, useVisitWork } from "@/ui/workspace/workspaceContext";

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
    <section aria-label="What is not sent yet" className="border-b border-base-300 bg-base-100 px-3 py-2 text-sm">
      {isNothing ? (
        <p>
          Everything of this job is on the server, as of {when(job.savedAt, "second")}.{" "}
          {isKept === true && "It opens on this device without a connection too."}
          {isKept === false &&
            "It does not open here without a connection yet: a browser keeps pages of localhost and of https only."}
        </p>
      ) : (
        <WaitingList />
      )}
      <div className="mt-1 flex flex-wrap gap-2">
        {!isNothing && (
          <>
            <button type="button" className="btn btn-sm btn-primary press" onClick={sendNow}>
              <Send size={16} aria-hidden />
              Send now
            </button>
            <button type="button" className="btn btn-sm press" onClick={save}>
              <Download size={16} aria-hidden />
              Save as a file
            </button>
          </>
        )}
        <button type="button" className="btn btn-sm press" onClick={onClose}>
          Close
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
          <b>Changes of the plan and its readings</b>: {planWords(status)}
        </li>
      )}
      {log.waiting.map(({ entry, photo, refused }) => (
        <li key={entry.id} className="py-1">
          <time className="reading" dateTime={entry.at}>
            {when(entry.at, "clock")}
          </time>{" "}
          <b>{LOG_WORDS[entry.kind]}</b> {wordsOf(entry)}
          {photo && `, ${Math.max(1, Math.round(photo.size / 1000))} kB`}
          {refused !== undefined && <span className="font-semibold text-error"> Not taken: {refused}</span>}
        </li>
      ))}
    </ul>
  );
}

function planWords(status: SaveStatus): string {
  switch (status.kind) {
    case "refused":
      return `not taken: ${status.message}`;
    case "conflict":
      return "changed elsewhere too; choose above";
    case "waiting":
      return status.isKept ? "kept here, sent when the server answers" : "on this page only";
    case "saving":
      return "on the way";
    case "saved":
      return "saved";
  }
}

function wordsOf(entry: VisitEntry): string {
  if ("title" in entry) return entry.title;
  return `“${cutText(entry.text, 60)}”`;
}
