"use client";

import { useEffect, useRef, useState } from "react";
import { keepApp } from "@/ui/parts/browser/keepApp";
import { PARTS_WORDS } from "@/ui/words/partsWords";

/** Keeps the app in this browser; tells of a new version, taken when asked, or unseen when nothing is half typed. */
export function AppKeeper({ build }: { build: string }) {
  const isAsked = useRef(false);
  const [takeUp, setTakeUp] = useState<(() => void) | undefined>();
  useEffect(
    () =>
      keepApp(build, (how, take) => {
        // Taken over in another tab: this one goes along, unless somebody is in the middle of something here.
        if (how === "taken" && (isAsked.current || !isHalfTyped())) take();
        else setTakeUp(() => take);
      }),
    [build],
  );
  useEffect(() => {
    if (!takeUp) return undefined;
    const unseen = () => {
      if (document.visibilityState === "hidden" && !isHalfTyped()) takeUp();
    };
    document.addEventListener("visibilitychange", unseen);
    return () => document.removeEventListener("visibilitychange", unseen);
  }, [takeUp]);
  if (!takeUp) return null;
  return (
    <div
      role="status"
      className="fixed inset-x-0 bottom-16 z-40 mx-auto flex w-fit max-w-[calc(100vw-1rem)] items-center gap-3 rounded
        border border-base-300 bg-base-100 p-2 shadow"
    >
      <span>{PARTS_WORDS.aNewVersionOfGormitIsReadyWhatYou}</span>
      <button
        type="button"
        className="btn btn-primary press"
        onClick={() => {
          isAsked.current = true;
          takeUp();
        }}
      >
        {PARTS_WORDS.useItNow}
      </button>
    </div>
  );
}

/** Somebody is in the middle of something: in a field, beside one that is red, or with something not saved yet. */
function isHalfTyped(): boolean {
  return (
    document.activeElement instanceof HTMLInputElement ||
    document.activeElement instanceof HTMLTextAreaElement ||
    document.querySelector('[aria-invalid="true"], [data-unsaved]') !== null
  );
}
