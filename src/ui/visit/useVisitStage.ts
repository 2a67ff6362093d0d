"use client";

import type * as Comlink from "comlink";
import { useMemo } from "react";
import type { VisitSettings } from "@/core/plan/visitSettings";
import { withProvedStep } from "@/core/visit/provedStep";
import { sheetSchedule } from "@/core/visit/sheetSchedule";
import type { Schedule, ScheduleRequest } from "@/core/visit/schedule/scheduleSchema";
import type { VisitEntry } from "@/core/visit/visitEntry";
import { entriesOf } from "@/core/visit/visitState";
import { useVisitWriter, type VisitWriter } from "@/ui/visit/useVisitWriter";
import { useNow } from "@/ui/visit/useNow";
import { usePerson } from "@/ui/parts/browser/usePerson";
import { useWorkerAnswer } from "@/ui/parts/worker/useWorkerAnswer";
import { useEditor, useJob, useVisitWork } from "@/ui/workspace/workspaceContext";
import type { VisitWork } from "@/ui/workspace/visit/useVisit";
import type { ScheduleWorker } from "@/workers/schedule.worker";
import { VISIT_WORDS } from "@/ui/words/visitWords";

const REPLAN_MS = 60_000;

export interface Planned {
  readonly request: ScheduleRequest;
  readonly schedule: Schedule;
}

export interface VisitDesk extends VisitWork, VisitWriter {
  readonly jobId: string;
  /** What was recorded on this visit. */
  readonly entries: readonly VisitEntry[];
  readonly person: string;
  readonly setPerson: (name: string) => void;
  /** From now on, and before the day. */
  readonly planned: Planned | undefined;
  readonly wholeDay: Planned | undefined;
  /** Why there is no schedule. */
  readonly scheduleFailure: string | undefined;
  readonly settings: VisitSettings;
  readonly setSettings: (change: Partial<VisitSettings>, field?: string) => void;
  readonly placeName: (id: string | undefined) => string;
}

const scheduleThread = () =>
  new Worker(new URL("../../workers/schedule.worker.ts", import.meta.url), { type: "module" });

/** Binds the run sheet, its log and its schedule to the page. */
export function useVisitStage(): VisitDesk {
  const editor = useEditor();
  const job = useJob();
  const visit = useVisitWork();
  const { person, setPerson } = usePerson();
  const { site, visit: settings } = job.document;
  const { sheet, state, log } = visit;
  const entries = useMemo(() => entriesOf(log.entries, settings.id), [log.entries, settings.id]);
  const writer = useVisitWriter(visit, person, settings.id);
  const minute = useNow(REPLAN_MS);
  const request = useMemo(
    () => (minute === undefined ? undefined : sheetSchedule(sheet, state, site, settings.technicians, entries, minute)),
    [sheet, state, site, settings.technicians, entries, minute],
  );
  const dayRequest = useMemo(
    () => sheetSchedule(sheet, state, site, settings.technicians, [], undefined),
    [sheet, state, site, settings.technicians],
  );
  const { planned, failure } = useSchedule(request);
  const { planned: wholeDay } = useSchedule(dayRequest);
  const names = useMemo(() => new Map(site.places.map(({ id, name }) => [id, name])), [site.places]);
  return {
    ...visit,
    ...writer,
    record: (step, recorded) => {
      writer.record(step, recorded);
      const { values } = recorded;
      // What a proving step shows is weighed with all other readings, under Prove.
      if (step.tag === "prove" && values)
        editor.edit((document) => withProvedStep(document, step, values), `proved ${step.id}`);
    },
    entries,
    jobId: job.id,
    person,
    setPerson,
    planned,
    wholeDay,
    scheduleFailure: failure,
    settings,
    setSettings: (change, field) =>
      editor.edit((document) => ({ ...document, visit: { ...document.visit, ...change } }), field && `visit ${field}`),
    placeName: (id) => (id === undefined ? VISIT_WORDS.anywhere : (names.get(id) ?? id)),
  };
}

async function askSchedule(
  worker: Comlink.Remote<ScheduleWorker>,
  request: ScheduleRequest,
): Promise<Schedule | undefined> {
  const outcome = await worker.plan(request);
  if (outcome.kind === "cycle") throw new Error(`the needs lead in a circle: ${outcome.steps.join(", ")}`);
  return outcome.kind === "schedule" ? outcome.schedule : undefined;
}

/** Plan a request in a worker; the last plan stays until the next one is there. */
function useSchedule(request: ScheduleRequest | undefined): {
  readonly planned: Planned | undefined;
  readonly failure: string | undefined;
} {
  const { result, of, failure } = useWorkerAnswer<ScheduleWorker, ScheduleRequest, Schedule>(
    scheduleThread,
    request,
    askSchedule,
  );
  const planned = useMemo(() => (result && of ? { request: of, schedule: result } : undefined), [result, of]);
  return { planned, failure };
}
