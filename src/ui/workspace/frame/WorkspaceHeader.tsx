"use client";

import { Check, CloudOff, Loader2, OctagonX, Redo2, Split, Undo2 } from "lucide-react";
import Link from "next/link";
import { useState } from "react";
import { countFindings, type Finding } from "@/core/findings";
import { jobNameSchema } from "@/core/job/jobDocument";
import { supplyText } from "@/core/jobSummary";
import type { Sentence } from "@/core/sentence";
import { useSaid } from "@/ui/parts/browser/useNumberStyle";
import { FindingMark } from "@/ui/parts/show/FindingMark";
import { ThemeSwitch } from "@/ui/parts/browser/ThemeSwitch";
import type { SaveStatus } from "@/ui/workspace/safekeeping/jobEditor";
import { useEditor, useJob } from "@/ui/workspace/workspaceContext";

interface Props {
  readonly findings: readonly Finding[];
  readonly next: Sentence;
  readonly onFindings: () => void;
  readonly findingsShown: boolean;
}

/** The job, its supply, whether it is saved, its findings, and the one next thing to do. */
export function WorkspaceHeader({ findings, next, onFindings, findingsShown }: Props) {
  const editor = useEditor();
  const job = useJob();
  const said = useSaid();
  const counts = countFindings(findings);
  const levels = (["stop", "fix", "note"] as const).filter((level) => counts[level] > 0);
  return (
    <header className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-base-300 bg-base-200 px-3 py-1.5">
      <div className="min-w-0 max-md:flex-1">
        <Link href="/jobs" className="link quiet block text-sm leading-tight">
          Jobs
        </Link>
        <JobName />
      </div>
      <span className="quiet text-sm max-lg:hidden">{supplyText(job.document.site.supply)}</span>
      <SavedState status={job.status} revision={job.revision} />
      <span className="order-1 basis-full md:hidden" aria-hidden />
      <p className="min-w-0 flex-1 max-md:order-2">
        <span className="quiet text-sm">Next </span>
        <span className="font-semibold text-primary">{said(next)}</span>
      </p>
      <div className="flex items-center gap-1">
        <button
          type="button"
          className="btn btn-ghost press gap-3 px-2"
          aria-expanded={findingsShown}
          onClick={onFindings}
        >
          {levels.length === 0
            ? "No findings"
            : levels.map((level) => <FindingMark key={level} level={level} count={counts[level]} />)}
        </button>
        <button
          type="button"
          className="btn btn-ghost press px-2"
          disabled={!job.canUndo}
          onClick={() => editor.undo()}
          title="Undo (Ctrl Z)"
        >
          <Undo2 size={20} aria-hidden />
          <span className="sr-only">Undo</span>
        </button>
        <button
          type="button"
          className="btn btn-ghost press px-2 max-md:hidden"
          disabled={!job.canRedo}
          onClick={() => editor.redo()}
          title="Redo (Ctrl Shift Z)"
        >
          <Redo2 size={20} aria-hidden />
          <span className="sr-only">Redo</span>
        </button>
        <span className="max-md:hidden">
          <ThemeSwitch />
        </span>
      </div>
    </header>
  );
}

/** The job's name; press it to change it. */
function JobName() {
  const editor = useEditor();
  const job = useJob();
  const [typed, setTyped] = useState<string | undefined>();
  const { name } = job.document.job;
  if (typed === undefined) {
    return (
      <h1 className="max-w-72 text-lg font-bold leading-tight md:truncate max-md:text-base">
        <button
          type="button"
          className="max-w-full cursor-text text-left hover:underline max-md:line-clamp-2 md:truncate"
          title="Change the name"
          onClick={() => setTyped(name)}
        >
          {name}
        </button>
      </h1>
    );
  }
  const problem = jobNameSchema.safeParse(typed).error?.issues[0]?.message;
  return (
    <div>
      <input
        className="field font-bold"
        aria-label="Name of the job"
        autoFocus
        value={typed}
        aria-invalid={problem !== undefined}
        onChange={(event) => {
          setTyped(event.target.value);
          const good = jobNameSchema.safeParse(event.target.value);
          if (good.success)
            editor.edit((document) => ({ ...document, job: { ...document.job, name: good.data } }), "name");
        }}
        onBlur={() => setTyped(undefined)}
        onKeyDown={(event) => (event.key === "Enter" || event.key === "Escape") && setTyped(undefined)}
      />
      {problem && (
        <p role="alert" className="text-sm font-semibold text-error">
          {problem}; “{name}” is kept
        </p>
      )}
    </div>
  );
}

function SavedState({ status, revision }: { status: SaveStatus; revision: number }) {
  const { Icon, words, colour } = savedLook(status);
  return (
    <span
      role="status"
      data-revision={revision}
      className={`inline-flex items-center gap-1 text-sm max-md:order-2 ${colour}`}
      title={`Revision ${revision}`}
    >
      <Icon size={16} aria-hidden />
      {words}
    </span>
  );
}

function savedLook(status: SaveStatus) {
  switch (status.kind) {
    case "saved":
      return { Icon: Check, words: "Saved", colour: "quiet" };
    case "saving":
      return { Icon: Loader2, words: "Saving", colour: "quiet" };
    case "waiting":
      return {
        Icon: CloudOff,
        words: status.isKept
          ? "Kept here, waiting for the server"
          : "Not saved, and this browser keeps nothing: leave this page open",
        colour: "text-warning font-semibold",
      };
    case "conflict":
      return { Icon: Split, words: "Changed elsewhere too", colour: "text-error font-semibold" };
    case "refused":
      return { Icon: OctagonX, words: `Not saved: ${status.message}`, colour: "text-error font-semibold" };
  }
}
