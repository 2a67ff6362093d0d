"use client";

import { createContext, useContext } from "react";
import type { SortedFindings } from "@/core/job/openFindings";
import type { Kit } from "@/core/kits/kitSchema";
import type { JobEditor, EditorSnapshot } from "@/ui/workspace/safekeeping/jobEditor";
import type { VisitWork } from "@/ui/workspace/visit/useVisit";
import type { DiagnosisState } from "@/ui/workspace/useDiagnosis";

export interface Workspace {
  readonly editor: JobEditor;
  readonly job: EditorSnapshot;
  readonly diagnosis: DiagnosisState;
  readonly visit: VisitWork;
  /** Every finding of the job, parted into open and accepted. */
  readonly findings: SortedFindings;
  /** The kits to choose from. */
  readonly library: readonly Kit[];
}

export const WorkspaceContext = createContext<Workspace | undefined>(undefined);

/** The open job. Throws outside a job's workspace. */
export function useWorkspace(): Workspace {
  const workspace = useContext(WorkspaceContext);
  if (!workspace) throw new Error("useWorkspace: used outside a job's workspace");
  return workspace;
}
