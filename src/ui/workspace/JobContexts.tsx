"use client";

import type { ReactNode } from "react";
import type { SortedFindings } from "@/core/job/openFindings";
import type { Kit } from "@/core/kits/kitSchema";
import type { EditorSnapshot, JobEditor } from "@/ui/workspace/safekeeping/jobEditor";
import type { DiagnosisState } from "@/ui/workspace/useDiagnosis";
import type { VisitWork } from "@/ui/workspace/visit/useVisit";
import {
  DiagnosisContext,
  EditorContext,
  FindingsContext,
  OpenJobContext,
  LibraryContext,
  VisitWorkContext,
} from "@/ui/workspace/workspaceContext";

interface Props {
  readonly editor: JobEditor;
  readonly job: EditorSnapshot;
  readonly diagnosis: DiagnosisState;
  readonly visit: VisitWork;
  readonly findings: SortedFindings;
  readonly library: readonly Kit[];
  readonly children: ReactNode;
}

/** What the parts of an open job look at, each in a context of its own. */
export function JobContexts({ editor, job, diagnosis, visit, findings, library, children }: Props) {
  return (
    <EditorContext.Provider value={editor}>
      <LibraryContext.Provider value={library}>
        <OpenJobContext.Provider value={job}>
          <DiagnosisContext.Provider value={diagnosis}>
            <VisitWorkContext.Provider value={visit}>
              <FindingsContext.Provider value={findings}>{children}</FindingsContext.Provider>
            </VisitWorkContext.Provider>
          </DiagnosisContext.Provider>
        </OpenJobContext.Provider>
      </LibraryContext.Provider>
    </EditorContext.Provider>
  );
}
