"use client";

import { Check, CloudOff, Loader2, OctagonX, Split, type LucideIcon } from "lucide-react";
import type { ReactNode } from "react";
import { sentState, type SentState } from "@/ui/workspace/safekeeping/sentState";
import { useJob, useVisitWork } from "@/ui/workspace/workspaceContext";

interface Props {
  readonly isOpen: boolean;
  readonly onOpen: () => void;
}

/** Whether everything of this job is saved, in one word; opens to what waits. */
export function SentMark({ isOpen, onOpen }: Props) {
  const { status, revision } = useJob();
  const { log } = useVisitWork();
  const state = sentState(status, log);
  const { Icon, words, colour } = lookOf(state);
  return (
    <button
      type="button"
      className={`press inline-flex items-center gap-1 text-sm max-md:order-2 max-md:max-w-[45%] max-md:pl-2 ${colour}`}
      aria-expanded={isOpen}
      title={`Revision ${revision}`}
      onClick={onOpen}
    >
      <Icon size={16} className="shrink-0" aria-hidden />
      <span
        role="status"
        data-revision={revision}
        {...(state.kind !== "saved" && { "data-unsaved": state.kind })}
        className="text-left"
      >
        {words}
      </span>
    </button>
  );
}

function lookOf(state: SentState): { readonly Icon: LucideIcon; readonly words: ReactNode; readonly colour: string } {
  switch (state.kind) {
    case "saved":
      return state.isAway
        ? { Icon: CloudOff, words: "Saved, no connection", colour: "quiet" }
        : { Icon: Check, words: "Saved", colour: "quiet" };
    case "sending":
      return { Icon: Loader2, words: "Sending", colour: "quiet" };
    case "waiting":
      return {
        Icon: CloudOff,
        words: state.isKept ? (
          <>
            Not sent yet: {state.count}, safe on this <span className="md:hidden">phone</span>
            <span className="max-md:hidden">computer</span>
          </>
        ) : (
          `Not sent yet: ${state.count}, and this browser keeps nothing: leave this page open`
        ),
        colour: "text-warning font-semibold",
      };
    case "conflict":
      return { Icon: Split, words: "Changed elsewhere too", colour: "text-error font-semibold" };
    case "refused":
      return { Icon: OctagonX, words: `Not taken: ${state.count}, see`, colour: "text-error font-semibold" };
  }
}
