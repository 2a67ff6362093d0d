import { Check, Circle, CircleSlash, Eye, OctagonX, Timer } from "lucide-react";
import type { StepState } from "@/core/visit/visitState";
import { VISIT_WORDS } from "@/ui/words/visitWords";

const LOOKS = {
  open: { Icon: Circle, words: VISIT_WORDS.toDo, colour: "quiet" },
  waiting: { Icon: Timer, words: VISIT_WORDS.runs, colour: "text-info" },
  done: { Icon: Check, words: VISIT_WORDS.done, colour: "text-success" },
  stopped: { Icon: OctagonX, words: VISIT_WORDS.stoppedLower, colour: "text-error" },
  skipped: { Icon: CircleSlash, words: VISIT_WORDS.skipped, colour: "text-warning" },
} as const;

/** Where a step stands: shape and word besides the colour. */
export function StatusMark({ state: { status, needsLook } }: { state: StepState }) {
  const { Icon, words, colour } = LOOKS[status];
  return (
    <span className={`inline-flex items-center gap-1 whitespace-nowrap text-sm font-semibold ${colour}`}>
      <Icon size={16} aria-hidden />
      {words}
      {needsLook && (
        <span className="ml-1 inline-flex items-center gap-1 text-warning">
          <Eye size={16} aria-hidden />
          {VISIT_WORDS.lookAgain}
        </span>
      )}
    </span>
  );
}
