"use client";

import { said } from "@/core/sentence";
import type { Lane } from "@/core/visit/timelineLanes";
import { waitText } from "@/core/visit/visitStep";
import { Failure } from "@/ui/parts/show/Failure";
import { FindingLine } from "@/ui/parts/show/FindingLine";
import { SelectField } from "@/ui/parts/form/SelectField";
import { usePhone } from "@/ui/parts/browser/usePhone";
import { useSay } from "@/ui/parts/browser/useNumberStyle";
import { TechniciansField } from "@/ui/visit/TechniciansField";
import { ScheduleList } from "@/ui/visit/ScheduleList";
import { useTimeline, type Timeline } from "@/ui/visit/useTimeline";
import type { VisitDesk, Planned } from "@/ui/visit/useVisitStage";
import { VISIT_WORDS } from "@/ui/words/visitWords";

const TICKS_MIN = [5, 10, 15, 30, 60, 120];
const LONGEST_TICK_MIN = 240;
const MOST_TICKS = 10;
const LEAST_BAR_PCT = 0.15;
const LEAST_NAMED_PCT = 4;
const LONG_WAIT_MIN = 5;

const BAR_LOOKS = {
  critical: "bg-primary text-primary-content",
  work: "bg-neutral text-neutral-content",
  wait: "note-pattern text-base-content",
  walk: "radio-pattern",
} as const;

/** Who does what when: the rest of the visit from now on, or the whole of it before the day. */
export function SchedulePart({ desk, onShow }: { desk: VisitDesk; onShow: (step: string) => void }) {
  const timeline = useTimeline(desk);
  const { shown, titleOf } = timeline;
  if (!shown)
    return desk.scheduleFailure === undefined ? (
      <p role="status" className="mx-auto max-w-6xl">
        {VISIT_WORDS.planning}
      </p>
    ) : (
      <Failure of={VISIT_WORDS.theSchedule} why={desk.scheduleFailure} />
    );
  return (
    <div className="mx-auto max-w-6xl space-y-4">
      <ScheduleHead desk={desk} timeline={timeline} shown={shown} />
      {shown.schedule.findings.map((finding) => (
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
      <div className="overflow-x-auto max-md:hidden" role="region" aria-label={VISIT_WORDS.timeline} tabIndex={0}>
        <div className="min-w-[44rem] space-y-1">
          {timeline.lanes.map((lane, at) => (
            <LaneRow
              key={at}
              lane={lane}
              timeline={timeline}
              placeOf={(step) => desk.placeName(shown.request.steps.find(({ id }) => id === step)?.place)}
              onShow={onShow}
            />
          ))}
          <TimeAxis timeline={timeline} />
        </div>
      </div>
      <BarKey />
      <div className="grid gap-4 lg:grid-cols-2">
        <StartEarly timeline={timeline} shown={shown} />
        <CriticalPath timeline={timeline} shown={shown} />
      </div>
      <ScheduleList
        timeline={timeline}
        placeOf={(step) => desk.placeName(shown.request.steps.find(({ id }) => id === step)?.place)}
        onShow={onShow}
      />
    </div>
  );
}

function ScheduleHead({
  desk,
  timeline: { view, setView },
  shown: { schedule, request },
}: {
  desk: VisitDesk;
  timeline: Timeline;
  shown: Planned;
}) {
  const say = useSay();
  const { makespanMin, lowerBoundMin } = schedule;
  const overPct = lowerBoundMin > 0 ? (100 * (makespanMin - lowerBoundMin)) / lowerBoundMin : 0;
  return (
    <div className="flex flex-wrap items-end gap-3">
      <div className="w-44">
        <SelectField
          label={VISIT_WORDS.show}
          value={view}
          options={[
            { value: "day", label: VISIT_WORDS.theWholeVisit },
            { value: "now", label: VISIT_WORDS.fromNowOn },
          ]}
          onValue={(value) => setView(value === "now" ? "now" : "day")}
        />
      </div>
      <div className="w-36">
        <TechniciansField desk={desk} />
      </div>
      <p role="status" className="min-w-0 flex-1 text-lg max-md:basis-full">
        <b>{minutesText(makespanMin)}</b>{" "}
        {VISIT_WORDS.forSteps(
          request.steps.length,
          schedule.proven
            ? VISIT_WORDS.noShorterPlanExists
            : say(VISIT_WORDS.noPlanIsShorterThanAtMostAbove(minutesText(lowerBoundMin), overPct.toFixed(1))),
        )}
      </p>
    </div>
  );
}

function LaneRow({
  lane,
  timeline,
  placeOf,
  onShow,
}: {
  lane: Lane;
  timeline: Timeline;
  placeOf: (step: string) => string;
  onShow: (step: string) => void;
}) {
  return (
    <div className="grid grid-cols-[6.5rem_1fr] items-center gap-2">
      <span className="text-sm font-semibold">{lane.name}</span>
      <div className="relative h-10 rounded border border-base-300 bg-base-200">
        {lane.bars.map((bar, at) => (
          <TimelineBar
            key={at}
            bar={bar}
            timeline={timeline}
            words={
              bar.kind === "walk"
                ? VISIT_WORDS.walkToOf(placeOf(bar.step))
                : `${timeline.titleOf(bar.step)}${bar.kind === "wait" ? ", unattended" : ""}`
            }
            onShow={onShow}
          />
        ))}
      </div>
    </div>
  );
}

function TimelineBar({
  bar,
  timeline: { path, totalMin, atText },
  words,
  onShow,
}: {
  bar: Lane["bars"][number];
  timeline: Timeline;
  words: string;
  onShow: (step: string) => void;
}) {
  const isCritical = path.includes(bar.step) && bar.kind !== "walk";
  const lengthPct = (100 * (bar.toMin - bar.fromMin)) / totalMin;
  const isPhone = usePhone();
  const look = {
    className:
      "absolute inset-y-1 overflow-hidden whitespace-nowrap border-r border-base-100 px-1 text-left text-xs " +
      `${BAR_LOOKS[isCritical && bar.kind === "work" ? "critical" : bar.kind]} ` +
      `${isCritical && bar.kind === "wait" ? "border-y-2 border-primary" : ""}`,
    style: { left: `${(100 * bar.fromMin) / totalMin}%`, width: `${Math.max(LEAST_BAR_PCT, lengthPct)}%` },
  };
  const name = bar.kind === "work" && lengthPct > LEAST_NAMED_PCT ? words : "";
  // Too narrow for a thumb: on a phone the list below opens the step, and says everything that stands here.
  if (isPhone)
    return (
      <span {...look} aria-hidden>
        {name}
      </span>
    );
  return (
    <button
      type="button"
      title={`${atText(bar.fromMin)} ${words}`}
      aria-label={`${atText(bar.fromMin)} ${words}${isCritical ? VISIT_WORDS.onTheCriticalPath : ""}`}
      onClick={() => onShow(bar.step)}
      {...look}
    >
      {name}
    </button>
  );
}

function TimeAxis({ timeline: { totalMin, atText } }: { timeline: Timeline }) {
  const tick = TICKS_MIN.find((minutes) => totalMin / minutes <= MOST_TICKS) ?? LONGEST_TICK_MIN;
  return (
    <div className="ml-[7rem] flex h-5 text-xs">
      <div className="relative w-full">
        {Array.from({ length: Math.floor(totalMin / tick) + 1 }, (_, at) => (
          <span
            key={at}
            className="reading absolute -translate-x-1/2"
            style={{ left: `${(100 * at * tick) / totalMin}%` }}
          >
            {atText(at * tick)}
          </span>
        ))}
      </div>
    </div>
  );
}

function BarKey() {
  return (
    <p className="flex flex-wrap gap-4 text-sm max-md:hidden">
      {(
        [
          ["bg-primary", VISIT_WORDS.workOnTheCriticalPath],
          ["bg-neutral", VISIT_WORDS.otherWork],
          ["note-pattern text-base-content", VISIT_WORDS.unattended],
          ["radio-pattern", VISIT_WORDS.walk],
        ] as const
      ).map(([look, words]) => (
        <span key={words} className="inline-flex items-center gap-2">
          <span className={`inline-block h-4 w-6 rounded-sm border border-base-content ${look}`} aria-hidden />
          {words}
        </span>
      ))}
    </p>
  );
}

function StartEarly({
  timeline: { atText, titleOf },
  shown: { request, schedule },
}: {
  timeline: Timeline;
  shown: Planned;
}) {
  const waits = request.steps
    .filter(({ waitMin }) => waitMin >= LONG_WAIT_MIN)
    .map(({ id, waitMin }) => ({ ...schedule.assignments.find(({ step }) => step === id)!, waitMin }))
    .toSorted((a, b) => a.startMin - b.startMin);
  return (
    <section aria-label={VISIT_WORDS.startEarly}>
      <h3 className="font-bold">{VISIT_WORDS.startTheseEarlyTheyRunUnattended}</h3>
      {waits.length === 0 ? (
        <p className="quiet text-sm">{VISIT_WORDS.nothingRunsLongUnattended}</p>
      ) : (
        <ol className="text-sm">
          {waits.map(({ step, startMin, waitMin }) => (
            <li key={step}>
              <span className="reading mr-2">{atText(startMin)}</span>
              {VISIT_WORDS.unattendedOf(titleOf(step), waitText({ waitMin }))}
            </li>
          ))}
        </ol>
      )}
    </section>
  );
}

function CriticalPath({
  timeline: { path, atText, titleOf },
  shown: { schedule },
}: {
  timeline: Timeline;
  shown: Planned;
}) {
  return (
    <section aria-label={VISIT_WORDS.criticalPathTitle}>
      <h3 className="font-bold">{VISIT_WORDS.criticalPathToItsEnd}</h3>
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
  );
}

/** @example minutesText(95) // "1 h 35 min" */
function minutesText(minutes: number): string {
  const whole = Math.round(minutes);
  return whole < 60 ? VISIT_WORDS.minOf(whole) : VISIT_WORDS.hMin(Math.floor(whole / 60), whole % 60);
}
