"use client";

import { busOfLink } from "@/core/links/busOfLink";
import { pollCosts, type PollCost } from "@/core/links/pollCycle";
import { rs485 } from "@/core/links/rs485";
import { useSay } from "@/ui/parts/useNumberStyle";
import type { Wire } from "@/ui/wire/useWire";

const PARTS = [
  { key: "requestMs", name: "request", className: "bg-primary" }, { key: "turnaroundMs", name: "turnaround", className: "fix-pattern text-base-content" },
  { key: "replyMs", name: "reply", className: "bg-neutral" }, { key: "gapsMs", name: "gaps", className: "note-pattern text-base-content" },
] as const satisfies readonly { key: keyof PollCost; name: string; className: string }[];
const OTHER_SPEEDS = [9600, 19_200, 38_400, 57_600, 115_200];

/** How long a cycle of each bus takes, device by device, and with devices that do not answer: the age of a reading. */
export function PollTiming({ wire }: { wire: Wire }) {
  const { document: { site, kits, links } } = wire;
  const say = useSay();
  const ms = (value: number) => say(`${value < 100 ? value.toFixed(1) : String(Math.round(value))} ms`);
  const buses = links.flatMap((link) => { const bus = busOfLink(site, kits, link); return bus ? [{ link, bus }] : []; });
  if (buses.length === 0) return <p className="mx-auto max-w-6xl">No RS-485 line yet. Take the links that are proposed under Links.</p>;
  return (
    <div className="mx-auto max-w-6xl space-y-5">
      <p className="flex flex-wrap gap-4 text-sm">{PARTS.map((part) => <span key={part.key} className="inline-flex items-center gap-2"><span className={`inline-block h-4 w-6 rounded-sm border border-base-content ${part.className}`} aria-hidden />{part.name}</span>)}</p>
      {buses.map(({ link, bus }) => {
        const costs = pollCosts(bus);
        const { worstCycleMs } = rs485(bus);
        const longest = Math.max(...costs.map((cost) => cost.aliveMs), 1);
        return (
          <section key={link.id} aria-label={link.name} className="panel p-3">
            <h3 className="font-bold">{link.name}: a reading is up to {ms(worstCycleMs[0]!)} old</h3>
            <p className="text-sm">With one device dead {ms(worstCycleMs[1]!)}, with two {ms(worstCycleMs[2]!)}. Sum over devices of characters, two gaps of 3.5 characters a block, and turnaround.</p>
            <ul className="mt-2 space-y-1">
              {costs.map((cost) => (
                <li key={cost.device} className="grid grid-cols-[10rem_1fr_5rem] items-center gap-2 text-sm max-md:grid-cols-[6rem_1fr_4.5rem]">
                  <span className="truncate">{cost.device}</span>
                  <span className="flex h-6" role="img" aria-label={PARTS.map((part) => `${part.name} ${ms(cost[part.key])}`).join(", ")}>
                    {PARTS.map((part) => <span key={part.key} title={`${part.name} ${ms(cost[part.key])}`} className={`h-full border-y border-r border-base-content first:border-l ${part.className}`} style={{ width: `${(100 * cost[part.key]) / longest}%` }} />)}
                  </span>
                  <span className="reading text-right">{ms(cost.aliveMs)}</span>
                </li>
              ))}
            </ul>
            <p className="mt-2 text-sm">At other speeds: {OTHER_SPEEDS.map((baud) => `${baud} Bd ${ms(rs485({ ...bus, baud, devices: bus.devices.map(({ baud: _own, ...device }) => device) }).pollCycleMs)}`).join(", ")}.</p>
          </section>
        );
      })}
    </div>
  );
}
