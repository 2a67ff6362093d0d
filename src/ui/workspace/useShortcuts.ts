"use client";

import { useRouter } from "next/navigation";
import { useEffect } from "react";
import type { JobEditor } from "@/ui/workspace/jobEditor";

/** `g` then a letter goes to a stage. */
const STAGE_KEYS: Readonly<Record<string, string>> = { l: "place", p: "prove" };

/** Keys that work on every stage: undo, redo, and going to another stage. */
export function useShortcuts(editor: JobEditor, jobId: string): void {
  const router = useRouter();
  useEffect(() => {
    let going = false;
    const onKey = (event: KeyboardEvent) => {
      const key = event.key.toLowerCase();
      const isUndoKey = (event.ctrlKey || event.metaKey) && (key === "z" || key === "y");
      // In a text field the field's own undo is what a person means.
      if (isTyping(event.target)) return;
      if (isUndoKey) {
        event.preventDefault();
        if (key === "y" || event.shiftKey) editor.redo();
        else editor.undo();
        return;
      }
      if (event.ctrlKey || event.metaKey || event.altKey) return;
      const stage = STAGE_KEYS[key];
      if (going && stage) router.push(`/jobs/${jobId}/${stage}`);
      going = key === "g";
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [editor, jobId, router]);
}

function isTyping(target: EventTarget | null): boolean {
  if (!(target instanceof HTMLElement)) return false;
  return target.isContentEditable || target instanceof HTMLTextAreaElement || target instanceof HTMLSelectElement
    || (target instanceof HTMLInputElement && target.type !== "range" && target.type !== "checkbox");
}
