"use client";

import { BENCH_WIFI } from "@/core/bench/benchWifi";
import type { BenchStatus } from "@/core/bench/benchSchema";
import { rungName } from "@/core/online/rungs";
import { BENCH_WORDS } from "@/ui/words/benchWords";

/** How far each device's chain to its owner has come on the bench, and what its lamps show. */
export function BenchOnline({ bench: { online } }: { bench: BenchStatus }) {
  if (online.length === 0) return null;
  return (
    <section aria-label={BENCH_WORDS.onlineOnTheBench}>
      <h3 className="mb-1 text-lg font-bold">{BENCH_WORDS.theWayOnline}</h3>
      <p className="mb-2 text-sm">
        {BENCH_WORDS.itsRoutersLabelNetwork} <b>{BENCH_WIFI.name}</b>
        {BENCH_WORDS.passphrase}
        <b className="reading">{BENCH_WIFI.passphrase}</b>
        {BENCH_WORDS.aDeviceWhosePassphraseIsWrongJoins}
      </p>
      <ul className="grid gap-3 md:grid-cols-2">
        {online.map(({ device, name, rung, lamps, address }) => (
          <li key={device} className="space-y-1 rounded border border-base-300 p-3">
            <h4 className="font-bold">{name}</h4>
            <p className="text-sm">
              {rung === null ? BENCH_WORDS.withoutPower : BENCH_WORDS.comeTo(rungName(rung).toLowerCase())}
              {address !== null && (
                <>
                  , <span className="reading">{address}</span>
                </>
              )}
            </p>
            <ul className="text-sm">
              {lamps.map((words) => (
                <li key={words}>{words}</li>
              ))}
            </ul>
          </li>
        ))}
      </ul>
    </section>
  );
}
