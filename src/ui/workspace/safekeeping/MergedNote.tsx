"use client";

import { GitMerge } from "lucide-react";
import { useEditor, useJob } from "@/ui/workspace/workspaceContext";
import { WORKSPACE_WORDS } from "@/ui/words/workspaceWords";

const MOST_SHOWN = 4;

/** What came in from elsewhere beside what was typed here, until it is seen. */
export function MergedNote() {
  const editor = useEditor();
  const { merged } = useJob();
  if (merged.length === 0) return null;
  const more = merged.length - MOST_SHOWN;
  return (
    <div
      role="status"
      className="flex flex-wrap items-center gap-2 border-b border-base-300 bg-base-100 px-3 py-1 text-sm"
    >
      <GitMerge size={16} className="shrink-0 text-info" aria-hidden />
      <span className="min-w-0 flex-1">
        <b>{WORKSPACE_WORDS.putTogetherWithWhatWasSaved}</b>: {merged.slice(0, MOST_SHOWN).join("; ")}
        {more > 0 && WORKSPACE_WORDS.andMore(more)}
        {WORKSPACE_WORDS.whatYouTypedIsKept}
      </span>
      <button type="button" className="btn btn-sm press" onClick={() => editor.noted()}>
        {WORKSPACE_WORDS.seen}
      </button>
    </div>
  );
}
