"use client";

import { Download } from "lucide-react";
import { useEffect, useState } from "react";
import { downloadText } from "@/ui/parts/browser/downloadText";
import type { BrowserDrafts, UnreadableDraft } from "@/ui/workspace/safekeeping/browserDrafts";
import { WORKSPACE_WORDS } from "@/ui/words/workspaceWords";

/** Drafts that this program cannot read: kept as they are, given out as files, gone only when somebody says so. */
export function UnreadableDrafts({ jobId, drafts }: { jobId: string; drafts: BrowserDrafts }) {
  const [found, setFound] = useState<readonly UnreadableDraft[]>([]);
  useEffect(() => {
    const timer = setTimeout(() => setFound(drafts.unreadable()));
    return () => clearTimeout(timer);
  }, [drafts]);
  return found.map(({ key, text }) => (
    <div
      key={key}
      role="alert"
      className="flex flex-wrap items-center gap-2 border-b-4 border-error bg-base-100 p-3 text-sm"
    >
      <span className="min-w-0 flex-1 max-md:basis-full">
        <b>{WORKSPACE_WORDS.aDraftOfThisJobInThisBrowserCannot}</b> {WORKSPACE_WORDS.itStaysHereAsItIsSaveItAsAFile}
      </span>
      <button
        type="button"
        className="btn btn-sm press"
        onClick={() => downloadText(`gormit-draft-${jobId}.json`, text)}
      >
        <Download size={16} aria-hidden />
        {WORKSPACE_WORDS.saveAsAFile}
      </button>
      <button
        type="button"
        className="btn btn-sm press"
        onClick={() => {
          drafts.release(key);
          setFound(drafts.unreadable());
        }}
      >
        {WORKSPACE_WORDS.letItGo}
      </button>
    </div>
  ));
}
