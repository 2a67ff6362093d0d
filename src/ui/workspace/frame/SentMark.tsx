"use client";

import { Check, CloudOff, Loader2, OctagonX, Split, type LucideIcon } from "lucide-react";
import type { ReactNode } from "react";
import { sentState, type SentState } from "@/ui/workspace/safekeeping/sentState";
import { useJob, useVisitWork } from "@/ui/workspace/workspaceContext";
import { WORKSPACE_WORDS } from "@/ui/words/workspaceWords";

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
      title={WORKSPACE_WORDS.revision(revision)}
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
        ? { Icon: CloudOff, words: WORKSPACE_WORDS.savedNoConnection, colour: "quiet" }
        : { Icon: Check, words: WORKSPACE_WORDS.saved, colour: "quiet" };
    case "sending":
      return { Icon: Loader2, words: WORKSPACE_WORDS.sending, colour: "quiet" };
    case "waiting":
      return {
        Icon: CloudOff,
        words: state.isKept ? (
          <>
            {WORKSPACE_WORDS.notSentYetSafeOnThis(state.count)}{" "}
            <span className="md:hidden">{WORKSPACE_WORDS.phone}</span>
            <span className="max-md:hidden">{WORKSPACE_WORDS.computer}</span>
          </>
        ) : (
          WORKSPACE_WORDS.notSentYetAndThisBrowserKeeps(state.count)
        ),
        colour: "text-warning font-semibold",
      };
    case "conflict":
      return { Icon: Split, words: WORKSPACE_WORDS.changedElsewhereToo, colour: "text-error font-semibold" };
    case "refused":
      return { Icon: OctagonX, words: WORKSPACE_WORDS.notTakenSee(state.count), colour: "text-error font-semibold" };
  }
}
