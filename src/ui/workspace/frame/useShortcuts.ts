"use client";

import { useRouter } from "next/navigation";
import { useEffect } from "react";
import type { JobEditor } from "@/ui/workspace/safekeeping/jobEditor";
import { STAGES } from "@/core/stages";

interface Sheets {
  readonly onPalette: () => void;
  readonly onShortcuts: () => void;
}

/** Keys that work on every stage: the palette, the sheet of shortcuts, undo, redo, and going to another stage. */
export function useShortcuts(editor: JobEditor, jobId: string, { onPalette, onShortcuts }: Sheets): void {
  const router = useRouter();
  useEffect(() => {
    let going = false;
    const onKey = (event: KeyboardEvent) => {
      const key = event.key.toLowerCase();
      if ((event.ctrlKey || event.metaKey) && key === "k") {
        event.preventDefault();
        onPalette();
        return;
      }
      // In a text field the field's own undo is what a person means.
      if (isTyping(event.target)) return;
      if ((event.ctrlKey || event.metaKey) && (key === "z" || key === "y")) {
        event.preventDefault();
        if (key === "y" || event.shiftKey) editor.redo();
        else editor.undo();
        return;
      }
      if (event.ctrlKey || event.metaKey || event.altKey) return;
      if (event.key === "?") onShortcuts();
      const stage = STAGES.find((candidate) => candidate.key === key);
      if (going && stage) router.push(`/jobs/${jobId}/${stage.id}`);
      going = key === "g";
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [editor, jobId, router, onPalette, onShortcuts]);
}

function isTyping(target: EventTarget | null): boolean {
  if (!(target instanceof HTMLElement)) return false;
  return (
    target.isContentEditable ||
    target instanceof HTMLTextAreaElement ||
    target instanceof HTMLSelectElement ||
    (target instanceof HTMLInputElement && target.type !== "range" && target.type !== "checkbox")
  );
}
