"use client";

import { CircleCheck } from "lucide-react";
import type { Chain } from "@/core/chain/chainOf";
import { RUNGS, rungHeight, rungName } from "@/core/online/rungs";
import { wayName } from "@/core/online/ways";
import { ONLINE_WORDS } from "@/ui/words/onlineWords";

interface Props {
  readonly chains: readonly Chain[];
  readonly chosen: string;
  readonly onChoose: (device: string) => void;
}

/** Every device that must be seen: by which way, how far it is proved, what is missing; the worst first. */
export function DeviceLines({ chains, chosen, onChoose }: Props) {
  return (
    <section aria-label={ONLINE_WORDS.devicesThatMustBeSeen} className="min-w-0 space-y-2">
      <h3 className="sr-only">{ONLINE_WORDS.devicesThatMustBeSeen}</h3>
      <ul className="space-y-2">
        {chains.map((chain) => (
          <li key={chain.device.id}>
            <button
              type="button"
              aria-pressed={chain.device.id === chosen}
              className={`press panel w-full p-2 text-left ${
                chain.device.id === chosen ? "border-2 !border-primary" : ""
              }`}
              onClick={() => onChoose(chain.device.id)}
            >
              <DeviceLine chain={chain} />
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}

function DeviceLine({ chain: { device, way, through, proved, missing, mayTakeMin, record } }: { chain: Chain }) {
  return (
    <>
      <span className="block font-bold">{device.name}</span>
      <span className="quiet block text-sm">
        {way === undefined ? ONLINE_WORDS.noWayPlanned : wayName(way)}
        {through && ONLINE_WORDS.seenThrough(through.name)}
      </span>
      {record.ownerSeesAt ? (
        <span className="flex items-center gap-1 text-sm font-semibold text-success">
          <CircleCheck size={16} aria-hidden />
          {ONLINE_WORDS.theOwnerSeesIt}
        </span>
      ) : (
        <>
          <RungBar height={rungHeight(proved)} />
          <span className="block text-sm">
            {proved === null ? ONLINE_WORDS.nothingProvedYet : ONLINE_WORDS.proved(rungName(proved).toLowerCase())}
            {missing && (
              <>
                {ONLINE_WORDS.missing} <b>{rungName(missing).toLowerCase()}</b>
              </>
            )}
          </span>
          {mayTakeMin > 0 && way !== undefined && (
            <span className="quiet block text-sm">{ONLINE_WORDS.mayTakeMinMoreByItself(mayTakeMin)}</span>
          )}
        </>
      )}
    </>
  );
}

/** How many rungs are proved; said in words beside it. */
function RungBar({ height }: { height: number }) {
  return (
    <span aria-hidden className="my-1 flex gap-0.5">
      {RUNGS.map(({ id }, at) => (
        <span
          key={id}
          className={`h-2 flex-1 rounded-sm ${at <= height ? "bg-success" : "border border-base-content/40"}`}
        />
      ))}
    </span>
  );
}
