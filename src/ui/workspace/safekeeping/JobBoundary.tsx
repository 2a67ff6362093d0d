"use client";

import { Download, RotateCcw, Undo2 } from "lucide-react";
import { useEffect, useState, type ReactNode } from "react";
import { ErrorBoundary, type FallbackProps } from "react-error-boundary";
import { downloadText } from "@/ui/parts/browser/downloadText";
import type { BrowserDrafts } from "@/ui/workspace/safekeeping/browserDrafts";
import type { JobEditor } from "@/ui/workspace/safekeeping/jobEditor";
import { WORKSPACE_WORDS } from "@/ui/words/workspaceWords";

interface Props {
  /** What cannot be shown: the job, or a stage of it. */
  readonly what: string;
  readonly editor: JobEditor;
  readonly drafts: BrowserDrafts;
  readonly children: ReactNode;
}

/** What fails with what was typed takes no more than itself, and is shown again as soon as the job changes. */
export function JobBoundary({ what, editor, drafts, children }: Props) {
  return (
    <ErrorBoundary fallbackRender={(failure) => <Failed what={what} editor={editor} drafts={drafts} {...failure} />}>
      {children}
    </ErrorBoundary>
  );
}

/** That nothing is lost, and three ways on: take the last change back, try again, put this browser's draft aside. */
function Failed({ what, editor, drafts, error, resetErrorBoundary }: Omit<Props, "children"> & FallbackProps) {
  const [isAside, setAside] = useState(false);
  useEffect(() => editor.subscribe(() => resetErrorBoundary()), [editor, resetErrorBoundary]);
  const { canUndo } = editor.getSnapshot();
  const putAside = () => {
    const { id, document } = editor.getSnapshot();
    downloadText(
      `gormit-draft-${id}.json`,
      JSON.stringify({ job: id, shown: document, drafts: drafts.everything() }, null, 2),
    );
    setAside(true);
  };
  const letGo = () => {
    editor.letGo();
    drafts.forget();
    window.location.reload();
  };
  return (
    <section role="alert" className="m-auto max-w-2xl space-y-3 p-6">
      <h2 className="text-xl font-bold">{WORKSPACE_WORDS.cannotBeShown(what)}</h2>
      <p>{WORKSPACE_WORDS.nothingIsLostWhatWasSavedIsKept(error instanceof Error ? error.message : String(error))}</p>
      <div className="flex flex-wrap gap-2">
        {canUndo && (
          <button type="button" className="btn btn-primary press" onClick={() => editor.undo()}>
            <Undo2 size={18} aria-hidden />
            {WORKSPACE_WORDS.takeTheLastChangeBack}
          </button>
        )}
        <button type="button" className={`btn press ${canUndo ? "" : "btn-primary"}`} onClick={resetErrorBoundary}>
          <RotateCcw size={18} aria-hidden />
          {WORKSPACE_WORDS.tryAgain}
        </button>
        <button type="button" className="btn press" onClick={putAside}>
          <Download size={18} aria-hidden />
          {WORKSPACE_WORDS.saveThisBrowsersDraftAsAFile}
        </button>
        {isAside && (
          <button type="button" className="btn press" onClick={letGo}>
            {WORKSPACE_WORDS.putTheDraftAsideAndLoadWhatIsSaved}
          </button>
        )}
      </div>
    </section>
  );
}
