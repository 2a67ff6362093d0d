"use client";

import { CircleAlert, CircleCheck, Hourglass, Play, type LucideIcon } from "lucide-react";
import type { BenchStatus } from "@/core/bench/benchSchema";
import type { BenchDesk } from "@/ui/bench/useBench";
import { BENCH_WORDS } from "@/ui/words/benchWords";

type Act = BenchStatus["acts"][number];

const WORDS = {
  pairing: { begin: BENCH_WORDS.openForPairing, name: BENCH_WORDS.pairing },
  "built-in-test": { begin: BENCH_WORDS.runItsOwnTest, name: BENCH_WORDS.itsOwnTest },
} as const;
const LOOKS: Readonly<Record<Exclude<Act["state"], "idle">, { Icon: LucideIcon; colour: string; word: string }>> = {
  running: { Icon: Hourglass, colour: "text-info", word: BENCH_WORDS.underWay },
  good: { Icon: CircleCheck, colour: "text-success", word: BENCH_WORDS.good },
  bad: { Icon: CircleAlert, colour: "text-error", word: BENCH_WORDS.failed },
};

/** What is begun at the devices by hand: pairing, and the test that some make of their own CTs. */
export function BenchActs({ desk, bench: { acts } }: { desk: BenchDesk; bench: BenchStatus }) {
  if (acts.length === 0) return null;
  return (
    <section aria-label={BENCH_WORDS.atTheDevices}>
      <h3 className="mb-1 text-lg font-bold">{BENCH_WORDS.atTheDevices}</h3>
      <ul className="grid gap-3 md:grid-cols-2">
        {acts.map((act) => (
          <li key={`${act.device} ${act.kind}`} className="space-y-1 rounded border border-base-300 p-3">
            <h4 className="font-bold">
              {act.name}: {WORDS[act.kind].name}
            </h4>
            <ActState act={act} />
            <button
              type="button"
              className="btn press"
              disabled={act.state === "running"}
              onClick={() => void desk.change({ acts: [{ device: act.device, kind: act.kind }] })}
            >
              <Play size={18} aria-hidden />
              {WORDS[act.kind].begin}
              <span className="sr-only">: {act.name}</span>
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}

function ActState({ act: { state, says, leftS, lastsS } }: { act: Act }) {
  if (state === "idle") return <p className="quiet text-sm">{BENCH_WORDS.takesS(lastsS)}</p>;
  const { Icon, colour, word } = LOOKS[state];
  return (
    <div className="text-sm">
      <p className={`flex items-center gap-1 font-semibold ${colour}`}>
        <Icon size={16} aria-hidden />
        {word}
        {state === "running" && (
          <>
            , <span className="reading">{Math.ceil(leftS)}</span> {BENCH_WORDS.sLeft}
          </>
        )}
      </p>
      {says.map((line) => (
        <p key={line}>{line}</p>
      ))}
    </div>
  );
}
