"use client";

import {
  Cable,
  CircleDot,
  ClipboardCheck,
  DraftingCompass,
  FlaskConical,
  Gauge,
  Handshake,
  ListTodo,
  LocateFixed,
  RadioTower,
  Split,
  type LucideIcon,
} from "lucide-react";
import { useEffect, useRef } from "react";
import type { Finding, FindingStage } from "@/core/findings";
import { STAGES, type JobView } from "@/core/stages";
import { StageLink, useStage } from "@/ui/workspace/frame/stageMoves";
import { WORKSPACE_WORDS } from "@/ui/words/workspaceWords";

interface Props {
  readonly jobId: string;
  readonly view: JobView;
  /** Those that are open. */
  readonly findings: readonly Finding[];
}

const HERE =
  "bg-base-100 font-bold shadow-[inset_4px_0_0_var(--color-primary)] " +
  "max-md:shadow-[inset_0_4px_0_var(--color-primary)]";

/** A stage without a picture of its own gets a plain one. */
const ICONS: Readonly<Partial<Record<FindingStage, LucideIcon>>> = {
  plan: DraftingCompass,
  place: LocateFixed,
  wire: Cable,
  visit: ListTodo,
  prove: ClipboardCheck,
  limit: Gauge,
  divert: Split,
  online: RadioTower,
  handover: Handshake,
  bench: FlaskConical,
};

/** The stages in the order of work, with the state of each; along the bottom on a phone. */
export function Spine({ jobId, view, findings }: Props) {
  const shown = useStage();
  const list = useRef<HTMLElement>(null);
  // On a phone the stages are wider than the screen: the one that is shown is seen.
  useEffect(() => {
    const here = list.current?.querySelector<HTMLElement>("[aria-current=page]");
    // By the list's own scroll: whatever else is scrolled by it would stay so.
    if (here && list.current)
      list.current.scrollLeft = here.offsetLeft - (list.current.clientWidth - here.offsetWidth) / 2;
  }, [shown]);
  const wrong = (stage: FindingStage) =>
    findings.filter((finding) => finding.stage === stage && finding.severity !== "note").length;
  return (
    <nav
      aria-label={WORKSPACE_WORDS.stages}
      className={
        "border-base-300 bg-base-200 max-md:relative max-md:flex max-md:overflow-x-auto max-md:border-t " +
        "md:w-36 md:border-r md:py-2"
      }
      ref={list}
    >
      {STAGES.map(({ id, name, state }) => {
        const Icon = ICONS[id] ?? CircleDot;
        const here = shown === id;
        return (
          <StageLink
            key={id}
            href={`/jobs/${jobId}/${id}`}
            aria-current={here ? "page" : undefined}
            className={
              "press flex items-center gap-2 px-3 py-2 max-md:shrink-0 max-md:grow max-md:flex-col " +
              "max-md:justify-center max-md:gap-0 max-md:px-1.5 max-md:py-1 max-md:text-xs " +
              (here ? HERE : "")
            }
          >
            <Icon size={22} aria-hidden />
            <span className="leading-tight">
              <span className="whitespace-nowrap">{name}</span>
              <span className="quiet block text-xs font-normal max-md:sr-only">{state(view, wrong(id))}</span>
            </span>
          </StageLink>
        );
      })}
    </nav>
  );
}
