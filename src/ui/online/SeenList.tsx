"use client";

import { RotateCcw, X } from "lucide-react";
import type { Chain } from "@/core/chain/chainOf";
import { seenWords } from "@/core/chain/seenWords";
import { capital } from "@/core/words";
import type { OnlineDesk } from "@/ui/online/useOnline";
import { useSay } from "@/ui/parts/browser/useNumberStyle";
import { useWhen } from "@/ui/parts/browser/useWhen";
import { ONLINE_WORDS } from "@/ui/words/onlineWords";

/** What was seen, each with its time; what was wrong is taken out, and can be taken back by undo. */
export function SeenList({ desk, chain }: { desk: OnlineDesk; chain: Chain }) {
  const when = useWhen();
  const say = useSay();
  const { observed } = chain.record;
  if (observed.length === 0) return <p className="quiet text-sm">{ONLINE_WORDS.nothingWasSeenYetTapWhatYouSee}</p>;
  return (
    <section aria-label={ONLINE_WORDS.seen} className="space-y-1">
      <h3 className="flex items-center text-sm font-bold">
        <span className="mr-auto">{ONLINE_WORDS.seen}</span>
        <button type="button" className="btn btn-ghost press" onClick={() => desk.forget(chain.device.id)}>
          <RotateCcw size={16} aria-hidden />
          {ONLINE_WORDS.beginAnew}
        </button>
      </h3>
      <ul>
        {observed.map((own, at) => (
          <li key={`${own.check} ${at}`} className="flex items-center gap-2 border-b border-base-300 text-sm">
            <span className="min-w-0 flex-1">
              {say(capital(seenWords(own, chain)))}
              <span className="quiet">
                {" "}
                {when(own.at, "minute")}
                {own.byItself && ONLINE_WORDS.byGormit}
              </span>
            </span>
            <button type="button" className="btn btn-ghost press px-2" onClick={() => desk.unsee(chain.device.id, own)}>
              <X size={18} aria-hidden />
              <span className="sr-only">{ONLINE_WORDS.takeOut(seenWords(own, chain))}</span>
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
