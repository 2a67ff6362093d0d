"use client";

import { readerOf } from "@/core/links/check/readerOf";
import { resolve } from "@/core/plan/resolve";
import type { PlanInput } from "@/core/plan/resolvedPlan";
import { useSay } from "@/ui/parts/browser/useNumberStyle";
import type { PlanDesk } from "@/ui/plan/usePlan";
import { PLAN_WORDS } from "@/ui/words/planWords";

const NAMES = {
  wire: PLAN_WORDS.wire,
  "radio-pair": PLAN_WORDS.radioPair,
  network: PLAN_WORDS.theCustomersNetwork,
} as const;

/**
 * How the meter reaches what acts on its readings: wire, radio pair or network, by the distance between their places.
 */
export function LinkAdvice({ plan: { document }, setup: { meter, kit } }: { plan: PlanDesk; setup: PlanInput }) {
  const say = useSay();
  if (kit?.metering?.transmitter) {
    const { rangeM, supply, reportS } = kit.metering.transmitter;
    return <p className="text-sm">{say(PLAN_WORDS.aRadioTransmitterAReadingEveryS(supply, reportS, rangeM))}</p>;
  }
  const plan = resolve(document);
  const own = plan.meterById.get(meter.id);
  const advice = own && readerOf(plan, own);
  if (!advice) return null;
  return (
    <section aria-label={PLAN_WORDS.link}>
      <h4 className="font-bold">{PLAN_WORDS.fromTheMeterTo(advice.reader.name)}</h4>
      <ol className="list-decimal pl-5 text-sm">
        {advice.options.map((option) => (
          <li key={option.kind} className={option.possible ? "" : "quiet"}>
            <b>{NAMES[option.kind]}</b>
            {option.possible ? "" : PLAN_WORDS.notPossible}: {say(option.why)}
          </li>
        ))}
      </ol>
    </section>
  );
}
