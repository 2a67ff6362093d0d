"use client";

import { ChevronDown, ChevronLeft, ChevronUp, Redo2, Undo2, type LucideIcon } from "lucide-react";
import Link from "next/link";
import { useState } from "react";
import { countFindings, type Finding } from "@/core/findings";
import { supplyText, type NextThing } from "@/core/jobSummary";
import { useSaid } from "@/ui/parts/browser/useNumberStyle";
import { FindingMark } from "@/ui/parts/show/FindingMark";
import { ThemeSwitch } from "@/ui/parts/browser/ThemeSwitch";
import { goToStage, placeOf } from "@/ui/workspace/frame/stageMoves";
import { JobCard } from "@/ui/workspace/frame/JobCard";
import { SentMark } from "@/ui/workspace/frame/SentMark";
import { useEditor, useJob } from "@/ui/workspace/workspaceContext";
import { WORKSPACE_WORDS } from "@/ui/words/workspaceWords";

interface Props {
  readonly findings: readonly Finding[];
  readonly next: NextThing;
  readonly onFindings: () => void;
  readonly findingsShown: boolean;
  readonly onWaiting: () => void;
  readonly waitingShown: boolean;
}

/** The job, its supply, whether it is saved, its findings, and the one next thing to do. */
export function WorkspaceHeader({ findings, next, onFindings, findingsShown, onWaiting, waitingShown }: Props) {
  const job = useJob();
  const counts = countFindings(findings);
  const levels = (["stop", "fix", "note"] as const).filter((level) => counts[level] > 0);
  return (
    <header
      className={
        "flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-base-300 bg-base-200 px-3 py-1.5 " +
        "max-md:gap-x-2 max-md:px-1 max-md:py-0.5"
      }
    >
      <div className="flex min-w-0 items-center max-md:flex-1 max-md:gap-1 md:block">
        <Link
          href="/jobs"
          className="link quiet block text-sm leading-tight max-md:press max-md:flex max-md:items-center"
        >
          <ChevronLeft size={24} className="md:hidden" aria-hidden />
          <span className="max-md:sr-only">{WORKSPACE_WORDS.jobs}</span>
        </Link>
        <JobCard />
      </div>
      <span className="quiet text-sm max-lg:hidden">{supplyText(job.document.site.supply)}</span>
      <SentMark isOpen={waitingShown} onOpen={onWaiting} />
      <span className="order-1 basis-full md:hidden lying:hidden" aria-hidden />
      <NextButton next={next} />
      <div className="flex items-center gap-1">
        <button
          type="button"
          className="btn btn-ghost press gap-3 px-2 max-md:gap-2 max-md:px-1"
          title={WORKSPACE_WORDS.findings}
          aria-expanded={findingsShown}
          onClick={onFindings}
        >
          {levels.length === 0
            ? WORKSPACE_WORDS.noFindings
            : levels.map((level) => <FindingMark key={level} level={level} count={counts[level]} />)}
        </button>
        <UndoButtons />
        <span className="max-md:hidden">
          <ThemeSwitch />
        </span>
      </div>
    </header>
  );
}

function UndoButtons() {
  const editor = useEditor();
  const job = useJob();
  return (
    <>
      <StepButton name="Undo" keys="Ctrl Z" Icon={Undo2} isDisabled={!job.canUndo} onPress={() => editor.undo()} />
      <span className="max-md:hidden">
        <StepButton
          name="Redo"
          keys="Ctrl Shift Z"
          Icon={Redo2}
          isDisabled={!job.canRedo}
          onPress={() => editor.redo()}
        />
      </span>
    </>
  );
}

interface StepProps {
  readonly name: string;
  readonly keys: string;
  readonly Icon: LucideIcon;
  readonly isDisabled: boolean;
  readonly onPress: () => void;
}

function StepButton({ name, keys, Icon, isDisabled, onPress }: StepProps) {
  return (
    <button
      type="button"
      className="btn btn-ghost press px-2 max-md:px-1"
      disabled={isDisabled}
      onClick={onPress}
      title={`${name} (${keys})`}
    >
      <Icon size={20} aria-hidden />
      <span className="sr-only">{name}</span>
    </button>
  );
}

/** The one next thing to do; pressed, it is shown where it is done. */
function NextButton({ next }: { next: NextThing }) {
  const said = useSaid();
  const job = useJob();
  const words = said(next.said);
  const [away, setAway] = useState<string | undefined>();
  // On a phone it is put away until there is something else to do.
  const isAway = away === words;
  return (
    <div className="flex min-w-0 flex-1 items-center max-md:order-3">
      <button
        type="button"
        className="press min-w-0 flex-1 text-left leading-tight max-md:pl-1"
        onClick={() => goToStage(placeOf(job.id, next))}
      >
        <span className="quiet text-sm">{WORKSPACE_WORDS.next} </span>
        <span
          className={
            "font-semibold text-primary underline decoration-dotted underline-offset-4 " +
            (isAway ? "max-md:hidden" : "")
          }
        >
          {words}
        </span>
      </button>
      <button
        type="button"
        className="btn btn-ghost press px-2 md:hidden"
        aria-expanded={!isAway}
        onClick={() => setAway(isAway ? undefined : words)}
      >
        {isAway ? <ChevronDown size={20} aria-hidden /> : <ChevronUp size={20} aria-hidden />}
        <span className="sr-only">{isAway ? WORKSPACE_WORDS.showWhatIsNext : WORKSPACE_WORDS.putWhatIsNextAway}</span>
      </button>
    </div>
  );
}
