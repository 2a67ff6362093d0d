"use client";

import { useMemo, useState } from "react";
import type { Finding } from "@/core/findings";
import type { JobDocument } from "@/core/job/jobDocument";
import type { Kit } from "@/core/kits/kitSchema";
import type { Site } from "@/core/site/planSchema";
import { useEditor, useFindings, useJob, useLibrary } from "@/ui/workspace/workspaceContext";

/** What is picked in the plan: in the list and on the board at once. */
export type PlanPick =
  | { readonly kind: "node"; readonly id: string }
  | { readonly kind: "input"; readonly meter: string; readonly input: number };

export interface PlanDesk {
  readonly document: JobDocument;
  readonly site: Site;
  /** The kits of the job, then those of the library that it does not have yet. */
  readonly kits: readonly Kit[];
  readonly findings: readonly Finding[];
  readonly picked: PlanPick | undefined;
  readonly pick: (picked: PlanPick | undefined) => void;
  /** Apply an edit; `field` names what is typed into, so that its keystrokes are undone together. */
  readonly edit: (change: (document: JobDocument) => JobDocument, field?: string) => void;
  readonly kitOf: (id: string | undefined) => Kit | undefined;
}

/** Binds the plan's edits of the core to the open job. */
export function usePlan(start: PlanPick | undefined): PlanDesk {
  const editor = useEditor();
  const job = useJob();
  const findings = useFindings();
  const library = useLibrary();
  const { document } = job;
  const [picked, pick] = useState<PlanPick | undefined>(start);
  const kits = useMemo(
    () => [...document.kits, ...library.filter((kit) => !document.kits.some((own) => own.id === kit.id))],
    [document.kits, library],
  );
  return {
    document,
    site: document.site,
    kits,
    findings: findings.open.filter((finding) => finding.stage === "plan"),
    picked: stillThere(document.site, picked),
    pick,
    edit: (change, field) => editor.edit(change, field),
    kitOf: (id) => kits.find((kit) => kit.id === id),
  };
}

/** Undo can take away what is picked. */
function stillThere(site: Site, picked: PlanPick | undefined): PlanPick | undefined {
  if (picked?.kind === "node") return site.nodes.some((node) => node.id === picked.id) ? picked : undefined;
  if (picked?.kind === "input")
    return site.meters.some(
      (meter) => meter.id === picked.meter && meter.inputs.some((input) => input.n === picked.input),
    )
      ? picked
      : undefined;
  return picked;
}
