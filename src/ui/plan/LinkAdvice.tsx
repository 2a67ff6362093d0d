"use client";

import { linkChoice } from "@/core/sensing/linkChoice";
import type { InputSetup } from "@/core/sensing/meterSetup";
import { distanceBetween } from "@/core/site/distances";
import { nodeName } from "@/core/site/tree";
import { useSay } from "@/ui/parts/useNumberStyle";
import type { Plan } from "@/ui/plan/usePlan";

const NAMES = { "wire": "Wire", "radio-pair": "Radio pair", "network": "The customer’s network" } as const;

/** How the meter reaches what acts on its readings: wire, radio pair or network, by the distance between their places. */
export function LinkAdvice({ plan: { site, kitOf }, setup: { meter, kit } }: { plan: Plan; setup: InputSetup }) {
  const say = useSay();
  if (kit?.metering?.transmitter) {
    const { rangeM, supply, reportS } = kit.metering.transmitter;
    return <p className="text-sm">{say(`A radio transmitter (${supply}), a reading every ${reportS} s, reaches about ${rangeM} m.`)}</p>;
  }
  const hasNetwork = (id: string | undefined) => { const network = kitOf(id)?.network; return network !== undefined && (network.wired || network.bandsGhz.length > 0); };
  const reader = [...site.equipment, ...site.nodes].find((item) => item.kit !== meter.kit && kitOf(item.kit)?.ports.some((port) => port.kind === "rs485" && port.role === "client"));
  if (!reader || reader.place === undefined || meter.place === undefined || reader.place === meter.place) return null;
  const distance = distanceBetween(site, meter.place, reader.place);
  const options = linkChoice({ cableM: distance.cableM, straightM: distance.straightM, hasNetworkAtBothEnds: hasNetwork(meter.kit) && hasNetwork(reader.kit) });
  return (
    <section aria-label="Link">
      <h4 className="font-bold">From the meter to {"fedFrom" in reader ? nodeName(site, reader.id) : reader.name}</h4>
      <ol className="list-decimal pl-5 text-sm">{options.map((option) => <li key={option.kind} className={option.possible ? "" : "quiet"}><b>{NAMES[option.kind]}</b>{option.possible ? "" : ", not possible"}: {say(option.why)}</li>)}</ol>
    </section>
  );
}
