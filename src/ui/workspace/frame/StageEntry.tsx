import type { LucideIcon } from "lucide-react";
import type { FindingStage } from "@/core/findings";
import { StageLink } from "@/ui/workspace/frame/stageMoves";

/** A stage as it is listed. */
export interface StageLine {
  readonly id: FindingStage;
  readonly name: string;
  readonly Icon: LucideIcon;
  readonly href: string;
  /** How far it is, in words. */
  readonly state: string;
  readonly isHere: boolean;
}

/** One stage of a list, with its state under its name. */
export function StageEntry({ stage, onGo }: { stage: StageLine; onGo?: () => void }) {
  const { name, Icon, href, state, isHere } = stage;
  return (
    <StageLink
      href={href}
      aria-current={isHere ? "page" : undefined}
      className={
        "press flex items-center gap-2 px-3 py-2 " +
        (isHere ? "bg-base-100 font-bold shadow-[inset_4px_0_0_var(--color-primary)]" : "")
      }
      onClick={onGo}
    >
      <Icon size={22} aria-hidden />
      <span className="leading-tight">
        <span className="whitespace-nowrap">{name}</span>
        <span className="quiet block text-xs font-normal">{state}</span>
      </span>
    </StageLink>
  );
}
