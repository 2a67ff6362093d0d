"use client";

import { Circle, CircleAlert, CircleCheck, CircleOff, type LucideIcon } from "lucide-react";
import type { BenchStatus } from "@/core/bench/benchSchema";
import { powerText } from "@/core/units";
import { FlowWords } from "@/ui/live/FlowWords";
import { useSay } from "@/ui/parts/browser/useNumberStyle";
import { BENCH_WORDS } from "@/ui/words/benchWords";

type Card = BenchStatus["cards"][number];

const LAMPS: Readonly<Record<Card["lamp"], { Icon: LucideIcon; words: string; colour: string }>> = {
  answers: { Icon: CircleCheck, words: BENCH_WORDS.answers, colour: "text-success" },
  silent: { Icon: CircleOff, words: BENCH_WORDS.saysNothing, colour: "text-error" },
  "at another address": { Icon: CircleAlert, words: BENCH_WORDS.atAnotherAddress, colour: "text-warning" },
  disturbed: { Icon: CircleAlert, words: BENCH_WORDS.itsLineIsDisturbed, colour: "text-warning" },
};

/** Every simulated device as a small card: whether it answers, what it shows, how often it was asked. */
export function BenchCards({ bench }: { bench: BenchStatus }) {
  return (
    <section aria-label={BENCH_WORDS.devicesOnTheBench}>
      <h3 className="mb-1 text-lg font-bold">{BENCH_WORDS.devices}</h3>
      <ul className="grid gap-3 md:grid-cols-2">
        {bench.cards.map((card) => (
          <DeviceCard key={`${card.link} ${card.device}`} card={card} />
        ))}
      </ul>
    </section>
  );
}

function DeviceCard({ card }: { card: Card }) {
  const say = useSay();
  const { Icon, words, colour } = LAMPS[card.lamp] ?? { Icon: Circle, words: card.lamp, colour: "" };
  const powers = card.shows.filter(({ unit }) => unit === "W");
  return (
    <li aria-label={BENCH_WORDS.onTheBench(card.name)} className="space-y-1 rounded border border-base-300 p-3">
      <div className="flex flex-wrap items-center gap-x-3">
        <h4 className="mr-auto font-bold">{card.name}</h4>
        <span className={`flex items-center gap-1 text-sm font-semibold ${colour}`}>
          <Icon size={16} aria-hidden />
          {words}
        </span>
      </div>
      <dl className="grid grid-cols-[minmax(0,1fr)_auto] gap-x-3 text-sm">
        {powers.map((value) => (
          <div key={value.what} className="contents">
            <dt>{value.what}</dt>
            <dd className="reading text-right">
              {say(powerText(value.value))} <FlowWords device={card.device} meter={card.meter} value={value} />
            </dd>
          </div>
        ))}
      </dl>
      <p className="quiet text-sm">
        {BENCH_WORDS.address} <span className="reading">{card.unit}</span>
        {BENCH_WORDS.asked}
        <span className="reading">{card.asked.toLocaleString("en")}</span> {BENCH_WORDS.times}
      </p>
    </li>
  );
}
