"use client";

import { createContext, useContext, type Context } from "react";
import type { SortedFindings } from "@/core/job/openFindings";
import type { Kit } from "@/core/kits/kitSchema";
import type { JobEditor, EditorSnapshot } from "@/ui/workspace/safekeeping/jobEditor";
import type { VisitWork } from "@/ui/workspace/visit/useVisit";
import type { DiagnosisState } from "@/ui/workspace/useDiagnosis";

// One context for each thing that changes by itself: whoever looks at one is not drawn again for the others.
export const EditorContext = createContext<JobEditor | undefined>(undefined);
export const OpenJobContext = createContext<EditorSnapshot | undefined>(undefined);
export const DiagnosisContext = createContext<DiagnosisState | undefined>(undefined);
export const VisitWorkContext = createContext<VisitWork | undefined>(undefined);
export const FindingsContext = createContext<SortedFindings | undefined>(undefined);
export const LibraryContext = createContext<readonly Kit[] | undefined>(undefined);

/** Who changes the open job, and takes changes back. */
export const useEditor = (): JobEditor => useIn(EditorContext, "useEditor");
/** The open job as it is now. */
export const useJob = (): EditorSnapshot => useIn(OpenJobContext, "useJob");
/** What the readings come to. */
export const useVerdict = (): DiagnosisState => useIn(DiagnosisContext, "useVerdict");
/** The sheet of the visit, its log, and where it stands. */
export const useVisitWork = (): VisitWork => useIn(VisitWorkContext, "useVisitWork");
/** Every finding of the job, parted into open and accepted. */
export const useFindings = (): SortedFindings => useIn(FindingsContext, "useFindings");
/** The kits to choose from. */
export const useLibrary = (): readonly Kit[] => useIn(LibraryContext, "useLibrary");

/** What a context holds. Throws outside a job's workspace. */
function useIn<T>(context: Context<T | undefined>, hook: string): T {
  const value = useContext(context);
  if (value === undefined) throw new Error(`${hook}: used outside a job's workspace`);
  return value;
}
