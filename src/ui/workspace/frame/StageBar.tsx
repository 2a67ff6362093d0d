"use client";

import * as Dialog from "@radix-ui/react-dialog";
import { ChevronLeft, ChevronRight, ChevronUp, X } from "lucide-react";
import { useState } from "react";
import { StageEntry, type StageLine } from "@/ui/workspace/frame/StageEntry";
import { StageLink } from "@/ui/workspace/frame/stageMoves";
import { WORKSPACE_WORDS } from "@/ui/words/workspaceWords";

/** The stages on a phone: the one that is shown, its neighbours in the order of work, and a sheet with all of them. */
export function StageBar({ stages }: { stages: readonly StageLine[] }) {
  const [isOpen, setOpen] = useState(false);
  const at = stages.findIndex(({ isHere }) => isHere);
  const here = stages[at];
  return (
    <nav aria-label={WORKSPACE_WORDS.stages} className="flex flex-none border-t border-base-300 bg-base-200 md:hidden">
      <Neighbour stage={stages[at - 1]} side="before" />
      <Dialog.Root open={isOpen} onOpenChange={setOpen}>
        <Dialog.Trigger
          data-stages
          className={
            "press flex min-w-0 flex-1 items-center justify-center gap-2 bg-base-100 px-2 py-1.5 " +
            "shadow-[inset_0_4px_0_var(--color-primary)]"
          }
        >
          {here && <here.Icon size={22} aria-hidden className="flex-none" />}
          <span className="min-w-0 text-left leading-tight">
            <b className="block">{here?.name ?? WORKSPACE_WORDS.stages}</b>
            <span className="quiet block truncate text-xs">{here?.state}</span>
          </span>
          <ChevronUp size={20} aria-hidden className="flex-none" />
          <span className="sr-only">{WORKSPACE_WORDS.allStages}</span>
        </Dialog.Trigger>
        <StageSheet stages={stages} onGo={() => setOpen(false)} />
      </Dialog.Root>
      <Neighbour stage={at < 0 ? undefined : stages[at + 1]} side="after" />
    </nav>
  );
}

function StageSheet({ stages, onGo }: { stages: readonly StageLine[]; onGo: () => void }) {
  return (
    <Dialog.Portal>
      <Dialog.Overlay className="palette-ground" />
      <Dialog.Content
        className="fixed inset-x-0 bottom-0 z-[51] border-t-2 border-base-content bg-base-200 p-2"
        aria-describedby={undefined}
      >
        <div className="flex items-center justify-between pl-3">
          <Dialog.Title className="font-bold">{WORKSPACE_WORDS.stages}</Dialog.Title>
          <Dialog.Close className="btn btn-ghost press px-2">
            <X size={20} aria-hidden />
            <span className="sr-only">{WORKSPACE_WORDS.close}</span>
          </Dialog.Close>
        </div>
        {/* Down the first column, then the second: as they are worked through. */}
        <nav aria-label={WORKSPACE_WORDS.stages} className="columns-2 gap-1">
          {stages.map((stage) => (
            <div key={stage.id} className="break-inside-avoid">
              <StageEntry stage={stage} onGo={onGo} />
            </div>
          ))}
        </nav>
      </Dialog.Content>
    </Dialog.Portal>
  );
}

/** The stage before or after the one that is shown; an empty place beside the first and the last. */
function Neighbour({ stage, side }: { stage: StageLine | undefined; side: "before" | "after" }) {
  const Arrow = side === "before" ? ChevronLeft : ChevronRight;
  if (!stage) return <span className="w-[24%] flex-none" />;
  return (
    <StageLink
      href={stage.href}
      className={
        "press flex w-[24%] flex-none items-center gap-0.5 px-1 text-sm leading-tight " +
        (side === "before" ? "" : "flex-row-reverse text-right")
      }
    >
      <Arrow size={20} aria-hidden className="flex-none" />
      {stage.name}
    </StageLink>
  );
}
