"use client";

import { readerOf } from "@/core/links/check/readerOf";
import type { InputSetup } from "@/core/sensing/meterSetup";
import { useSay } from "@/ui/parts/browser/useNumberStyle";
import type { Plan } from "@/ui/plan/usePlan";

const NAMES = { wire: "Wire", "radio-pair": "Radio pair", network: "The customer’s network" } as const;

/**
 * How the meter reaches what acts on its readings: wire, radio pair or network, by the distance between their places.
 */
export function LinkAdvice({ plan: { site, document }, setup: { meter, kit } }: { plan: Plan; setup: InputSetup }) {
  const say = useSay();
  if (kit?.metering?.transmitter) {
    const { rangeM, supply, reportS } = kit.metering.transmitter;
    return (
      <p className="text-sm">
        {say(`A radio transmitter (${supply}), a reading every ${reportS} s, reaches about ${rangeM} m.`)}
      </p>
    );
  }
  const advice = readerOf(site, document.kits, document.links, meter);
  if (!advice) return null;
  return (
    <section aria-label="Link">
      <h4 className="font-bold">From the meter to {advice.reader.name}</h4>
      <ol className="list-decimal pl-5 text-sm">
        {advice.options.map((option) => (
          <li key={option.kind} className={option.possible ? "" : "quiet"}>
            <b>{NAMES[option.kind]}</b>
            {option.possible ? "" : ", not possible"}: {say(option.why)}
          </li>
        ))}
      </ol>
    </section>
  );
}
