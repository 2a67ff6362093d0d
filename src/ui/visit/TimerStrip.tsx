"use client";

import { BellRing, Timer } from "lucide-react";
import { useEffect, useRef } from "react";
import type { VisitSheet } from "@/core/visit/visitSheet";
import { stateOf, type VisitState } from "@/core/visit/visitState";
import { useNow } from "@/ui/visit/useNow";
import type { VisitDesk } from "@/ui/visit/useVisitStage";
import { VISIT_WORDS } from "@/ui/words/visitWords";

const SECOND_MS = 1000;
const BEEP_S = 0.35;

/** @example clockText(95_000) // "1:35" */
export function clockText(leftMs: number): string {
  const seconds = Math.max(0, Math.ceil(leftMs / SECOND_MS));
  const [hours, minutes, rest] = [Math.floor(seconds / 3600), Math.floor(seconds / 60) % 60, seconds % 60];
  const two = (value: number) => String(value).padStart(2, "0");
  return hours > 0 ? `${hours}:${two(minutes)}:${two(rest)}` : `${minutes}:${two(rest)}`;
}

/**
 * Everything that runs by itself, together: boots, downloads, windows; with a sound and a notification when one is
 * over.
 */
export function TimerStrip({
  desk: { sheet, state, log },
  onShow,
}: {
  desk: VisitDesk;
  onShow: (step: string) => void;
}) {
  const now = useNow(SECOND_MS);
  const timers = runningTimers(sheet, state);
  useSoundWhenOver(timers, now);
  if (timers.length === 0 || !log.isLoaded || now === undefined) return null;
  return (
    <ul
      aria-label={VISIT_WORDS.timers}
      className="flex flex-none gap-2 overflow-x-auto border-b border-base-300 bg-base-200 p-2"
    >
      {timers.map((timer) => (
        <TimerButton key={timer.id} timer={timer} leftMs={timer.untilMs - now} onShow={onShow} />
      ))}
      {typeof Notification !== "undefined" && Notification.permission === "default" && (
        <li className="flex-none">
          <button type="button" className="btn press" onClick={() => void Notification.requestPermission()}>
            {VISIT_WORDS.notifyMe}
          </button>
        </li>
      )}
    </ul>
  );
}

interface StepTimer {
  /** The step that waits. */
  readonly id: string;
  readonly label: string;
  readonly untilMs: number;
}

/** What runs by itself now, the soonest first. */
function runningTimers(sheet: VisitSheet, state: VisitState): readonly StepTimer[] {
  return sheet.steps
    .flatMap((step) => {
      const { status, waitsUntilMs } = stateOf(state, step.id);
      if (status === "waiting" && waitsUntilMs !== undefined)
        return [{ id: step.id, label: step.waiting?.label ?? step.title, untilMs: waitsUntilMs }];
      // A window that was opened and not used yet.
      const opened = step.window && stateOf(state, step.window.after);
      return step.window && status === "open" && opened?.status === "done" && opened.entry
        ? [
            {
              id: step.id,
              label: VISIT_WORDS.windowFor(step.title),
              untilMs: Date.parse(opened.entry.at) + step.window.withinMin * 60 * SECOND_MS,
            },
          ]
        : [];
    })
    .toSorted((a, b) => a.untilMs - b.untilMs);
}

function TimerButton({
  timer: { id, label },
  leftMs,
  onShow,
}: {
  timer: StepTimer;
  leftMs: number;
  onShow: (step: string) => void;
}) {
  const isOver = leftMs <= 0;
  return (
    <li className="flex-none">
      <button
        type="button"
        className={
          "press flex items-center gap-2 rounded-md border-2 px-3 text-left " +
          `${isOver ? "border-primary bg-base-100 font-bold" : "border-secondary bg-base-100"}`
        }
        onClick={() => onShow(id)}
      >
        {isOver ? <BellRing size={18} aria-hidden /> : <Timer size={18} aria-hidden />}
        <span className="leading-tight">
          <span className="block max-w-52 truncate text-sm">{label}</span>
          <span className="reading text-lg">{isOver ? VISIT_WORDS.over : clockText(leftMs)}</span>
        </span>
      </button>
    </li>
  );
}

/** A sound and a notification when a timer is over, once each. */
function useSoundWhenOver(timers: readonly StepTimer[], now: number | undefined): void {
  const told = useRef(new Set<string>());
  useEffect(() => {
    if (now === undefined) return;
    for (const { id, label, untilMs } of timers) {
      const key = `${id} ${untilMs}`;
      // What was over before the page was opened is shown, not sounded.
      if (untilMs > now || told.current.has(key) || now - untilMs > 5 * SECOND_MS) continue;
      told.current.add(key);
      sound();
      if (typeof Notification !== "undefined" && Notification.permission === "granted")
        new Notification(label, { body: VISIT_WORDS.isOver, tag: id });
    }
  }, [now, timers]);
}

function sound(): void {
  try {
    const audio = new AudioContext();
    const tone = audio.createOscillator();
    const volume = audio.createGain();
    tone.frequency.value = 880;
    volume.gain.value = 0.25;
    tone.connect(volume).connect(audio.destination);
    tone.start();
    tone.stop(audio.currentTime + BEEP_S);
    tone.onended = () => void audio.close();
  } catch {
    // A browser that gives no sound before the first press shows the timer all the same.
    return;
  }
}
