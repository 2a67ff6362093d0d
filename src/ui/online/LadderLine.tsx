"use client";

import { ArrowRight, Check, Circle, CircleHelp } from "lucide-react";
import type { Chain } from "@/core/chain/chainOf";
import { RUNGS, rungHeight } from "@/core/online/rungs";
import { ONLINE_WORDS } from "@/ui/words/onlineWords";

/** The rungs in their order: proved, where it likely breaks, and what is open; a phone has them in the line above. */
export function LadderLine({ chain: { device, proved, answer, record } }: { chain: Chain }) {
  const height = rungHeight(proved);
  const breaks = record.observed.length > 0 && record.ownerSeesAt === undefined ? answer?.breaksAt : undefined;
  return (
    <ol
      aria-label={ONLINE_WORDS.rungsOf(device.name)}
      className="flex flex-wrap items-center gap-x-1 gap-y-1 text-sm max-md:hidden"
    >
      {RUNGS.map(({ id, name }, at) => {
        const isBreak = at > height && id === breaks;
        return (
          <li key={id} className="flex items-center gap-1">
            {at > 0 && <ArrowRight size={12} className="quiet" aria-hidden />}
            <span
              className={`flex items-center gap-1 rounded px-1.5 py-0.5 ${
                at <= height
                  ? "font-semibold text-success"
                  : isBreak
                    ? "border-2 border-warning font-bold text-warning"
                    : "quiet"
              }`}
            >
              {at <= height ? (
                <Check size={14} aria-hidden />
              ) : isBreak ? (
                <CircleHelp size={14} aria-hidden />
              ) : (
                <Circle size={10} aria-hidden />
              )}
              {name}
              <span className="sr-only">
                {at <= height ? ONLINE_WORDS.provedToo : isBreak ? ONLINE_WORDS.likelyBreaksHere : ONLINE_WORDS.open}
              </span>
            </span>
          </li>
        );
      })}
    </ol>
  );
}
