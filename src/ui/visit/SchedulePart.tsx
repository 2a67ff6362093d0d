"use client";

import { format } from "date-fns";
import { said } from "@/core/sentence";
import { useMemo, useState } from "react";
import { criticalPath } from "@/core/visit/schedule/criticalPath";
import { timelineLanes } from "@/core/visit/timelineLanes";
import { Failure } from "@/ui/parts/show/Failure";
import { FindingLine } from "@/ui/parts/show/FindingLine";
import { SelectField } from "@/ui/parts/form/SelectField";
import { useSay } from "@/ui/parts/browser/useNumberStyle";
import { useNow } from "@/ui/visit/useNow";
import { TechniciansField } from "@/ui/visit/TechniciansField";
import type { VisitDesk } from "@/ui/visit/useVisitStage";

const MINUTE_MS = 60_000;
const TICKS_MIN = [5, 10, 15, 30, 60, 120];
const MOST_TICKS = 10;
const LONG_WAIT_MIN = 5;

const BAR_LOOKS = {
  critical: "bg-primary text-primary-content",
  work: "bg-neutral text-neutral-content",
  wait: "note-pattern text-base-content",
  walk: "radio-pattern",
} as const;

/** Who does what when: the rest of the visit from now on, or the whole of it before the day. */
export function SchedulePart({ desk, onShow }: { desk: VisitDesk; onShow: (step: string) => void }) {
  const { planned, wholeDay, scheduleFailure, sheet, placeName, log } = desk;
  const [view, setView] = useState<"now" | "day">(log.entries.length > 0 ? "now" : "day");
  const now = useNow(MINUTE_MS);
  const say = useSay();
  const shown = view === "now" ? planned : wholeDay;
  const lanes = useMemo(() => (shown ? timelineLanes(shown.request, shown.schedule) : []), [shown]);
  const path = useMemo(() => (shown ? criticalPath(shown.request, shown.schedule) : []), [shown]);
  if (!shown)
    return scheduleFailure === undefined ? (
      <p role="status" className="mx-auto max-w-6xl">
        Planning …
      </p>
    ) : (
      <Failure of="The schedule" why={scheduleFailure} />
    );
  const { schedule, request } = shown;
  const titleOf = (id: string) => sheet.steps.find((step) => step.id === id)?.title ?? id;
  const total = Math.max(1, schedule.makespanMin);
  const tick = TICKS_MIN.find((minutes) => total / minutes <= MOST_TICKS) ?? 240;
  const over =
    schedule.lowerBoundMin > 0 ? (100 * (schedule.makespanMin - schedule.lowerBoundMin)) / schedule.lowerBoundMin : 0;
  const atText = (minutes: number) =>
    view === "now" && now !== undefined
      ? format(now + minutes * MINUTE_MS, "HH:mm")
      : `${Math.floor(minutes / 60)}:${String(Math.round(minutes % 60)).padStart(2, "0")}`;
  const waits = request.steps
    .filter(({ waitMin }) => waitMin >= LONG_WAIT_MIN)
    .map(({ id }) => schedule.assignments.find(({ step }) => step === id)!)
    .toSorted((a, b) => a.startMin - b.startMin);
  return (
    <div className="mx-auto max-w-6xl space-y-4">
      <div className="flex flex-wrap items-end gap-3">
        <div className="w-44">
          <SelectField
            label="Show"
            value={view}
            options={[
              { value: "day", label: "the whole visit" },
              { value: "now", label: "from now on" },
            ]}
            onValue={(value) => setView(value === "now" ? "now" : "day")}
          />
        </div>
        <div className="w-36">
          <TechniciansField desk={desk} />
        </div>
        <p
          role="status"
          className="min-w-0 flex-1 text-lg max-md:basis-full"
          data-schedule-total={Math.round(schedule.makespanMin)}
        >
          <b>{minutesText(schedule.makespanMin)}</b> for {request.steps.length} steps.{" "}
          {schedule.proven
            ? "No shorter plan exists."
            : say(
                `No plan is shorter than ${minutesText(schedule.lowerBoundMin)}: at most ${over.toFixed(1)} ` +
                  "% above the best.",
              )}
        </p>
      </div>
      {schedule.findings.map((finding) => (
        <FindingLine
          key={finding.id}
          finding={{
            ...finding,
            detail:
              finding.subject.kind === "step"
                ? said`${titleOf(finding.subject.step)}: ${finding.detail}`
                : finding.detail,
          }}
        />
      ))}
      <div className="overflow-x-auto" role="region" aria-label="Timeline" tabIndex={0}>
        <div className="min-w-[44rem] space-y-1">
          {lanes.map((lane, at) => (
            <div key={at} className="grid grid-cols-[6.5rem_1fr] items-center gap-2">
              <span className="text-sm font-semibold">{lane.name}</span>
              <div className="relative h-10 rounded border border-base-300 bg-base-200">
                {lane.bars.map((bar, which) => {
                  const isCritical = path.includes(bar.step) && bar.kind !== "walk";
                  const words =
                    bar.kind === "walk"
                      ? `walk to ${placeName(request.steps.find(({ id }) => id === bar.step)?.place)}`
                      : `${titleOf(bar.step)}${bar.kind === "wait" ? ", by itself" : ""}`;
                  return (
                    <button
                      key={which}
                      type="button"
                      title={`${atText(bar.fromMin)} ${words}`}
                      aria-label={`${atText(bar.fromMin)} ${words}${isCritical ? ", on the longest chain" : ""}`}
                      onClick={() => onShow(bar.step)}
                      className={
                        "absolute inset-y-1 overflow-hidden whitespace-nowrap border-r border-base-100 " +
                        "px-1 text-left text-xs " +
                        `${BAR_LOOKS[isCritical && bar.kind === "work" ? "critical" : bar.kind]} ` +
                        `${isCritical && bar.kind === "wait" ? "border-y-2 border-primary" : ""}`
                      }
                      style={{
                        left: `${(100 * bar.fromMin) / total}%`,
                        width: `${Math.max(0.15, (100 * (bar.toMin - bar.fromMin)) / total)}%`,
                      }}
                    >
                      {bar.kind === "work" && (100 * (bar.toMin - bar.fromMin)) / total > 4 ? words : ""}
                    </button>
                  );
                })}
              </div>
            </div>
          ))}
          <div className="ml-[7rem] flex h-5 text-xs">
            <div className="relative w-full">
              {Array.from({ length: Math.floor(total / tick) + 1 }, (_, at) => (
                <span
                  key={at}
                  className="reading absolute -translate-x-1/2"
                  style={{ left: `${(100 * at * tick) / total}%` }}
                >
                  {atText(at * tick)}
                </span>
              ))}
            </div>
          </div>
        </div>
      </div>
      <p className="flex flex-wrap gap-4 text-sm">
        {(
          [
            ["bg-primary", "work on the longest chain"],
            ["bg-neutral", "other work"],
            ["note-pattern text-base-content", "runs by itself"],
            ["radio-pattern", "walk"],
          ] as const
        ).map(([look, words]) => (
          <span key={words} className="inline-flex items-center gap-2">
            <span className={`inline-block h-4 w-6 rounded-sm border border-base-content ${look}`} aria-hidden />
            {words}
          </span>
        ))}
      </p>
      <div className="grid gap-4 lg:grid-cols-2">
        <section aria-label="Start early">
          <h3 className="font-bold">Start these early: they run by themselves</h3>
          {waits.length === 0 ? (
            <p className="quiet text-sm">Nothing runs long by itself.</p>
          ) : (
            <ol className="text-sm">
              {waits.map(({ step, startMin }) => (
                <li key={step}>
                  <span className="reading mr-2">{atText(startMin)}</span>
                  {titleOf(step)}, {Math.round(request.steps.find(({ id }) => id === step)!.waitMin)} min by itself
                </li>
              ))}
            </ol>
          )}
        </section>
        <section aria-label="Longest chain">
          <h3 className="font-bold">The end hangs on</h3>
          <ol className="text-sm">
            {path.slice(-8).map((id) => (
              <li key={id}>
                <span className="reading mr-2">
                  {atText(schedule.assignments.find(({ step }) => step === id)!.startMin)}
                </span>
                {titleOf(id)}
              </li>
            ))}
          </ol>
        </section>
      </div>
    </div>
  );
}

/** @example minutesText(95) // "1 h 35 min" */
function minutesText(minutes: number): string {
  const whole = Math.round(minutes);
  return whole < 60 ? `${whole} min` : `${Math.floor(whole / 60)} h ${whole % 60} min`;
}
