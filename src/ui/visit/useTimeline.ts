"use client";

import { format } from "date-fns";
import { useMemo, useState } from "react";
import { criticalPath } from "@/core/visit/schedule/criticalPath";
import { elapsedText, timelineLanes, type Lane } from "@/core/visit/timelineLanes";
import { useNow } from "@/ui/visit/useNow";
import type { Planned, VisitDesk } from "@/ui/visit/useVisitStage";

const MINUTE_MS = 60_000;

export interface Timeline {
  readonly view: "now" | "day";
  readonly setView: (view: "now" | "day") => void;
  /** Undefined until it is planned. */
  readonly shown: Planned | undefined;
  readonly lanes: readonly Lane[];
  /** Ids of the longest chain's steps. */
  readonly path: readonly string[];
  readonly totalMin: number;
  /** A moment of the schedule: on the clock from now on, as hours and minutes before the day. */
  readonly atText: (minutes: number) => string;
  readonly titleOf: (step: string) => string;
}

/** The schedule as it is drawn: the rest of the visit from now on, or the whole of it before the day. */
export function useTimeline({ planned, wholeDay, sheet, entries }: VisitDesk): Timeline {
  const [view, setView] = useState<"now" | "day">(entries.length > 0 ? "now" : "day");
  const now = useNow(MINUTE_MS);
  const shown = view === "now" ? planned : wholeDay;
  const lanes = useMemo(() => (shown ? timelineLanes(shown.request, shown.schedule) : []), [shown]);
  const path = useMemo(() => (shown ? criticalPath(shown.request, shown.schedule) : []), [shown]);
  return {
    view,
    setView,
    shown,
    lanes,
    path,
    totalMin: Math.max(1, shown?.schedule.makespanMin ?? 1),
    atText: (minutes) =>
      view === "now" && now !== undefined ? format(now + minutes * MINUTE_MS, "HH:mm") : elapsedText(minutes),
    titleOf: (id) => sheet.steps.find((step) => step.id === id)?.title ?? id,
  };
}
