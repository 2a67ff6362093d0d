"use client";

import { Timer, Trash2 } from "lucide-react";
import { useState } from "react";
import type { ExportLimiter } from "@/core/control/exportLimiter";
import { plannedFallback, typedFallback, type FallbackOfInverter, type FallbackOutcome } from "@/core/control/fallback";
import type { FallbackTest } from "@/core/plan/limitSettings";
import { powerText, threeDigits } from "@/core/units";
import { LiveFallback } from "@/ui/limit/LiveFallback";
import type { LimitDesk } from "@/ui/limit/useLimit";
import { useSay } from "@/ui/parts/browser/useNumberStyle";
import { useWhen } from "@/ui/parts/browser/useWhen";
import { usePerson } from "@/ui/parts/browser/usePerson";
import { NumberField } from "@/ui/parts/form/NumberField";
import { LIMIT_WORDS } from "@/ui/words/limitWords";

const VERDICTS: Readonly<Record<FallbackTest["verdict"], string>> = {
  "falls-back": LIMIT_WORDS.itFallsBackInTime,
  late: LIMIT_WORDS.itFallsBackTooLate,
  stays: LIMIT_WORDS.itDoesNotFallBack,
  untested: LIMIT_WORDS.itProvesNothingTheInvertersMade,
};
const LONGEST_S = 3600;

/** What happens without the meter: timed live where the inverters are read, or typed; judged and kept. */
export function FallbackTests({ desk, limiter }: { desk: LimitDesk; limiter: ExportLimiter }) {
  const { limit, plan, set } = desk;
  const say = useSay();
  const { person } = usePerson();
  const [watched, setWatched] = useState<{ readonly outcome: FallbackOutcome; readonly isOnBench: boolean }>();
  const planned = plannedFallback(plan, limiter);
  const keep = () => {
    if (!watched) return;
    const about = { id: crypto.randomUUID(), at: new Date().toISOString(), person };
    const test = { ...about, ...watched.outcome, ...(watched.isOnBench ? { onBench: true } : {}) };
    set({ fallbackTests: [...limit.fallbackTests, test] });
    setWatched(undefined);
  };
  return (
    <section aria-label={LIMIT_WORDS.withoutTheMeter} className="panel space-y-3 p-3">
      <h3 className="font-bold">{LIMIT_WORDS.withoutTheMeter}</h3>
      <ul className="text-sm">
        {planned.map(({ node, name, afterS, fallbackW, latestS }) => (
          <li key={node}>
            <b>{name}</b>:{" "}
            {say(LIMIT_WORDS.orLessAfterSWithItsRampAfterS(powerText(fallbackW), threeDigits(afterS), latestS))}
          </li>
        ))}
      </ul>
      {watched ? (
        <div role="status" className="space-y-2">
          <Outcome of={watched.outcome} isOnBench={watched.isOnBench} />
          <button type="button" className="btn btn-primary press mr-2" onClick={keep}>
            {LIMIT_WORDS.keepTheTest}
          </button>
          <button type="button" className="btn press" onClick={() => setWatched(undefined)}>
            {LIMIT_WORDS.again}
          </button>
        </div>
      ) : (
        <>
          <LiveFallback meter={limiter.meter} planned={planned} onOver={setWatched} />
          <TypedFallback planned={planned} onOutcome={(outcome) => setWatched({ outcome, isOnBench: false })} />
        </>
      )}
      {limit.fallbackTests.toReversed().map((test) => (
        <Kept
          key={test.id}
          test={test}
          onRemove={() => set({ fallbackTests: limit.fallbackTests.filter(({ id }) => id !== test.id) })}
        />
      ))}
    </section>
  );
}

function Kept({ test, onRemove }: { test: FallbackTest; onRemove: () => void }) {
  const when = useWhen();
  return (
    <div className="flex items-start gap-3 border-t border-base-300 pt-2">
      <div className="min-w-0 flex-1">
        <p className="quiet text-sm">
          {when(test.at, "full")}
          {test.person ? `, ${test.person}` : ""}
        </p>
        <Outcome of={test} isOnBench={test.onBench === true} />
      </div>
      <button type="button" className="btn btn-ghost press px-2" onClick={onRemove}>
        <Trash2 size={18} aria-hidden />
        <span className="sr-only">{LIMIT_WORDS.removeTheTestOf(when(test.at, "full"))}</span>
      </button>
    </div>
  );
}

function Outcome({ of, isOnBench }: { of: FallbackOutcome; isOnBench: boolean }) {
  const say = useSay();
  const took = of.seconds === undefined ? "" : LIMIT_WORDS.afterS(threeDigits(of.seconds));
  return (
    <>
      <p className={`text-lg font-bold ${of.verdict === "falls-back" ? "text-success" : "text-error"}`}>
        {VERDICTS[of.verdict]}
      </p>
      {isOnBench && <p className="caution font-semibold">{LIMIT_WORDS.timedOnTheBenchItProvesNothing}</p>}
      <p className="text-sm">
        {say(
          LIMIT_WORDS.fromToSetSAtTheLatestSToOrLess(
            powerText(of.beforeW),
            powerText(of.afterW),
            took,
            threeDigits(of.plannedS),
            threeDigits(of.latestS),
            powerText(of.fallbackW),
          ),
        )}
      </p>
    </>
  );
}

interface TypedProps {
  readonly planned: readonly FallbackOfInverter[];
  readonly onOutcome: (outcome: FallbackOutcome) => void;
}

/** Where nothing is read live: a watch and the inverters' displays. */
function TypedFallback({ planned, onOutcome }: TypedProps) {
  const [typed, setTyped] = useState<{ beforeW?: number; afterW?: number; seconds?: number }>({});
  const { beforeW, afterW, seconds } = typed;
  const isWhole = beforeW !== undefined && afterW !== undefined && seconds !== undefined;
  const field = (name: keyof typeof typed) => (value: number | undefined) =>
    setTyped(({ [name]: _before, ...others }) => (value === undefined ? others : { ...others, [name]: value }));
  const own = { optional: "until-sent", most: 1e8 } as const;
  return (
    <details>
      <summary className="press flex cursor-pointer items-center font-semibold">
        {LIMIT_WORDS.typeItFromAWatchAndTheDisplays}
      </summary>
      <div className="mt-2 grid gap-3 sm:grid-cols-3">
        <NumberField
          {...own}
          label={LIMIT_WORDS.allInvertersBefore}
          unit="W"
          value={beforeW}
          onValue={field("beforeW")}
        />
        <NumberField
          {...own}
          label={LIMIT_WORDS.allInvertersAtTheEnd}
          unit="W"
          value={afterW}
          onValue={field("afterW")}
        />
        <NumberField
          {...own}
          most={LONGEST_S}
          label={LIMIT_WORDS.fromPullingThePlug}
          unit="s"
          value={seconds}
          onValue={field("seconds")}
        />
      </div>
      <button
        type="button"
        className="btn press mt-3"
        disabled={!isWhole}
        onClick={() => isWhole && onOutcome(typedFallback(planned, { beforeW, afterW, seconds }))}
      >
        <Timer size={18} aria-hidden />
        {LIMIT_WORDS.judgeIt}
      </button>
    </details>
  );
}
