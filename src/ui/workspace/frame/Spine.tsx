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
import type { Finding, FindingStage } from "@/core/findings";
import { STAGES, type JobView } from "@/core/stages";
import { StageBar } from "@/ui/workspace/frame/StageBar";
import { StageEntry, type StageLine } from "@/ui/workspace/frame/StageEntry";
import { useStage } from "@/ui/workspace/frame/stageMoves";
import { WORKSPACE_WORDS } from "@/ui/words/workspaceWords";

interface Props {
  readonly jobId: string;
  readonly view: JobView;
  /** Those that are open. */
  readonly findings: readonly Finding[];
}

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

/** The stages in the order of work, with the state of each: down the side, or behind one bar on a phone. */
export function Spine({ jobId, view, findings }: Props) {
  const shown = useStage();
  const wrong = (stage: FindingStage) =>
    findings.filter((finding) => finding.stage === stage && finding.severity !== "note").length;
  const stages = STAGES.map(({ id, name, state }): StageLine => ({
    id,
    name,
    Icon: ICONS[id] ?? CircleDot,
    href: `/jobs/${jobId}/${id}`,
    state: state(view, wrong(id)),
    isHere: shown === id,
  }));
  return (
    <>
      <nav
        aria-label={WORKSPACE_WORDS.stages}
        className="w-36 overflow-y-auto border-r border-base-300 bg-base-200 py-2 max-md:hidden"
      >
        {stages.map((stage) => (
          <StageEntry key={stage.id} stage={stage} />
        ))}
      </nav>
      <StageBar stages={stages} />
    </>
  );
}
