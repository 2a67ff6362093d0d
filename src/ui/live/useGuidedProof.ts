"use client";

import { useEffect, useReducer, useRef } from "react";
import type { BenchChange } from "@/core/bench/benchSchema";
import type { NextTest } from "@/core/flows/nextTests";
import type { TestStep } from "@/core/flows/testSheetSchema";
import type { LiveLink } from "@/core/live/liveSchema";
import { roundOfSamples, type SiteSample } from "@/core/live/roundOfSamples";
import { switchings, type Switching } from "@/core/live/switchings";
import { hasChanged } from "@/core/live/takeReading";
import { inputTag } from "@/core/site/inputTag";
import { useMeterSamples } from "@/ui/live/useMeterSamples";
import type { ProveDesk } from "@/ui/prove/useProve";
import type { DiagnosisState } from "@/ui/workspace/useDiagnosis";
import { useJob, useVerdict } from "@/ui/workspace/workspaceContext";
import { LIVE_WORDS } from "@/ui/words/liveWords";

/** Readings of this long are taken together. */
const WINDOW_S = 3;
const MS_PER_S = 1000;
/** So long after a switching what was read may still be from before: the reader's round, and the way to this page. */
const DEAD_TIME_MS = 1_500;
const MOST_STEPS = 12;
const STEADY = LIVE_WORDS.waitingUntilItStandsStill;

export type GuidePhase =
  | { readonly kind: "idle" }
  /** What is on at the bench is being set. */
  | { readonly kind: "asked"; readonly step: number }
  | { readonly kind: "switching"; readonly step: number; readonly switchings: readonly Switching[] }
  /** Since a moment of the readings' own time; undefined while nothing was read. */
  | { readonly kind: "settling"; readonly step: number; readonly sinceMs: number | undefined; readonly why: string }
  /** What was read is weighed; `only`: one step was asked for. */
  | { readonly kind: "thinking" }
  | { readonly kind: "over"; readonly why: string };

export interface Guide {
  readonly phase: GuidePhase;
  /** Go on until the verdict stands. */
  readonly start: () => void;
  /** Take the readings of one step, and no more. */
  readonly takeOne: (step: number) => void;
  readonly stop: () => void;
  /** Somebody says that it is switched, where no meter showed it. */
  readonly switched: () => void;
}

/** What is known between two moves. */
interface Remembered {
  /** One step was asked for, and no more. */
  isAlone: boolean;
  /** Whoever stops is not started again by an answer that was on its way. */
  turn: number;
  /** What every input showed before something was switched. */
  before: ReadonlyMap<string, number>;
  /** When the last reading was. */
  lastMs: number | undefined;
}

/** Where the readings come from. */
interface Source {
  readonly links: readonly LiveLink[];
  /** Sets what is on at the bench, where one is read and is to switch by itself. */
  readonly onBench: ((change: BenchChange) => Promise<void>) | undefined;
  /** Simulated where what is read comes from a bench. */
  readonly source: TestStep["source"];
}

/**
 * Takes a whole test sheet from live values, in the order that Gormit advises, until the verdict stands.
 */
export function useGuidedProof(prove: ProveDesk, { links, onBench, source }: Source): Guide {
  const job = useJob();
  const verdict = useVerdict();
  const [phase, go] = useReducer((_: GuidePhase, next: GuidePhase) => next, { kind: "idle" });
  const isOn = phase.kind !== "idle" && phase.kind !== "over";
  const samples = useMeterSamples(job.id, links, isOn);
  const own = useRef<Remembered>({ isAlone: false, turn: 0, before: new Map(), lastMs: undefined });

  useEffect(() => {
    own.current.lastMs = samples.at(-1)?.atMs;
    const { sheet } = prove;
    switch (phase.kind) {
      case "switching":
        if (phase.switchings.length === 0 || isSwitched(phase.switchings, own.current.before, samples, prove))
          go(settling(phase.step, own.current.lastMs));
        // Nothing was read when the step began: what is read first is what it was before.
        else if (own.current.before.size === 0) own.current.before = lastOfEach(samples);
        return;
      case "settling": {
        const next = settled(phase, samples, prove);
        if (next.kind === "taken") {
          prove.take(phase.step, next, source);
          go(own.current.isAlone ? { kind: "over", why: takenWords(phase.step, next) } : { kind: "thinking" });
        } else if (next.why !== phase.why || next.sinceMs !== phase.sinceMs)
          go({ ...phase, why: next.why, sinceMs: next.sinceMs });
        return;
      }
      case "thinking": {
        const next = afterVerdict(sheet.steps, verdict);
        if (next.kind === "over") return go(next);
        if (next.kind === "add") return prove.addProposed(next.test);
        if (next.kind === "wait") return;
        own.current.before = lastOfEach(samples);
        const turn = ++own.current.turn;
        const { step } = next;
        if (onBench)
          void onBench(benchIn(sheet.steps[step])).then(
            () => turn === own.current.turn && go(settling(step, own.current.lastMs)),
          );
        return go(begun(step, sheet.steps, onBench !== undefined));
      }
    }
  });

  const begin = (isAlone: boolean, first: GuidePhase) => {
    own.current.isAlone = isAlone;
    go(first);
  };
  return {
    phase,
    start: () => begin(false, { kind: "thinking" }),
    takeOne: (step) => begin(true, settling(step, undefined)),
    stop: () => {
      own.current.turn++;
      go({ kind: "idle" });
    },
    switched: () => phase.kind === "switching" && go(settling(phase.step, own.current.lastMs)),
  };
}

/** What comes next: a step that was not read, another one that tells more, or nothing, since the verdict stands. */
function afterVerdict(
  steps: readonly TestStep[],
  { diagnosis, isOutdated, running }: DiagnosisState,
):
  | { readonly kind: "wait" }
  | { readonly kind: "step"; readonly step: number }
  | { readonly kind: "add"; readonly test: NextTest }
  | Extract<GuidePhase, { kind: "over" }> {
  if (isOutdated || running || !diagnosis) return { kind: "wait" };
  const step = firstUnread(steps);
  if (step !== undefined) return { kind: "step", step };
  if (steps.length > 0 && (diagnosis.verdict === "as-planned" || diagnosis.verdict === "faults-found"))
    return { kind: "over", why: LIVE_WORDS.theVerdictStandsSeeAbove };
  const [test] = diagnosis.nextTests;
  return test && steps.length < MOST_STEPS
    ? { kind: "add", test }
    : { kind: "over", why: LIVE_WORDS.nothingThatCouldBeSwitchedOnHere };
}

/** A step begins: the bench is asked, or somebody is told what to switch. */
function begun(step: number, steps: readonly TestStep[], isOnBench: boolean): GuidePhase {
  if (isOnBench) return { kind: "asked", step };
  const changes = switchings(steps[step - 1]?.devices ?? [], steps[step]?.devices ?? []);
  return { kind: "switching", step, switchings: changes };
}

/** What is on at the bench in a step. */
function benchIn(step: TestStep | undefined): BenchChange {
  const devices = (step?.devices ?? []).map(({ toleranceW: _, afterW: __, ...own }) => own);
  return { state: { devices, runs: "held" } };
}

function settling(step: number, sinceMs: number | undefined): GuidePhase {
  return { kind: "settling", step, sinceMs, why: STEADY };
}

function firstUnread(steps: readonly TestStep[]): number | undefined {
  const at = steps.findIndex(({ readings }) => readings.length === 0);
  return at < 0 ? undefined : at;
}

/** Whether any meter shows that something was switched. */
function isSwitched(
  wanted: readonly Switching[],
  before: ReadonlyMap<string, number>,
  samples: readonly SiteSample[],
  { sheet }: ProveDesk,
): boolean {
  const mostW = Math.max(0, ...wanted.map(({ fromW, toW }) => Math.abs(toW - fromW)));
  return [...lastOfEach(samples)].some(([key, powerW]) => {
    const was = before.get(key);
    return was !== undefined && hasChanged(was, powerW, mostW, sheet.noise);
  });
}

/** The round of a step once everything stands still, or why not yet. */
function settled(
  phase: Extract<GuidePhase, { kind: "settling" }>,
  samples: readonly SiteSample[],
  { site, sheet }: ProveDesk,
): ReturnType<typeof roundOfSamples> & { sinceMs?: number | undefined } {
  const nowMs = samples.at(-1)?.atMs;
  const sinceMs = phase.sinceMs ?? nowMs;
  if (nowMs === undefined || sinceMs === undefined)
    return { kind: "not-yet", why: LIVE_WORDS.waitingForTheFirstReading };
  const fromMs = sinceMs + DEAD_TIME_MS;
  if (nowMs - fromMs < WINDOW_S * MS_PER_S) return { kind: "not-yet", why: STEADY, sinceMs };
  const at = { sinceMs: fromMs, nowMs, windowS: WINDOW_S, noise: sheet.noise };
  return { ...roundOfSamples(site, samples, at, (meter, input) => inputTag(site, meter, input)), sinceMs };
}

function takenWords(step: number, { count, spreadW }: { readonly count: number; readonly spreadW: number }): string {
  return LIVE_WORDS.stepIsTakenTheMeanOfReadings(step + 1, count, Math.round(spreadW));
}

function lastOfEach(samples: readonly SiteSample[]): ReadonlyMap<string, number> {
  return new Map(
    samples.flatMap(({ meter, input, powerW }) =>
      meter === undefined || input === undefined ? [] : [[`${meter} ${input}`, powerW] as const],
    ),
  );
}
