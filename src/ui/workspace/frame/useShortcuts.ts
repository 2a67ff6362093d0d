"use client";

import { useHotkeys } from "react-hotkeys-hook";
import type { JobEditor } from "@/ui/workspace/safekeeping/jobEditor";
import { STAGES } from "@/core/stages";
import { goToStage } from "@/ui/workspace/frame/stageMoves";

interface Sheets {
  readonly onPalette: () => void;
  readonly onShortcuts: () => void;
}

/** In a text field the field's own keys are what a person means; ticks and sliders have none. */
const NOT_IN_TEXT = { enableOnFormTags: true, enableOnContentEditable: true, ignoreEventWhen: isTyping } as const;
const GO_TO = STAGES.map(({ key }) => `g>${key}`);

/** Keys that work on every stage: the palette, the sheet of shortcuts, undo, redo, and going to another stage. */
export function useShortcuts(editor: JobEditor, jobId: string, { onPalette, onShortcuts }: Sheets): void {
  useHotkeys("mod+k", onPalette, { enableOnFormTags: true, enableOnContentEditable: true, preventDefault: true });
  useHotkeys("mod+z", () => editor.undo(), { ...NOT_IN_TEXT, preventDefault: true });
  useHotkeys(["mod+shift+z", "mod+y"], () => editor.redo(), { ...NOT_IN_TEXT, preventDefault: true });
  useHotkeys("?", onShortcuts, { ...NOT_IN_TEXT, useKey: true });
  useHotkeys(
    GO_TO,
    (event, { keys }) => {
      // Of two keys after each other the library asks nobody whether they are meant for a field: a name that begins
      // with “gr” is no way to Run.
      if (isTyping(event)) return;
      const stage = STAGES.find(({ key }) => keys?.includes(key));
      if (stage) goToStage(`/jobs/${jobId}/${stage.id}`);
    },
    NOT_IN_TEXT,
  );
}

function isTyping({ target }: KeyboardEvent): boolean {
  if (!(target instanceof HTMLElement)) return false;
  return (
    target.isContentEditable ||
    target instanceof HTMLTextAreaElement ||
    target instanceof HTMLSelectElement ||
    (target instanceof HTMLInputElement && target.type !== "range" && target.type !== "checkbox")
  );
}
