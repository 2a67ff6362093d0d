"use client";

import { Download } from "lucide-react";
import { useEffect, useState } from "react";
import { downloadText } from "@/ui/parts/browser/downloadText";
import type { BrowserDrafts, UnreadableDraft } from "@/ui/workspace/safekeeping/browserDrafts";

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
        <b>A draft of this job in this browser cannot be read.</b> It stays here as it is; save it as a file before you
        let it go.
      </span>
      <button
        type="button"
        className="btn btn-sm press"
        onClick={() => downloadText(`gormit-draft-${jobId}.json`, text)}
      >
        <Download size={16} aria-hidden />
        Save as a file
      </button>
      <button
        type="button"
        className="btn btn-sm press"
        onClick={() => {
          drafts.release(key);
          setFound(drafts.unreadable());
        }}
      >
        Let it go
      </button>
    </div>
  ));
}
