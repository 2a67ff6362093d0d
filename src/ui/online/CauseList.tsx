"use client";

import { Wrench } from "lucide-react";
import type { Chain } from "@/core/chain/chainOf";
import { causeOf } from "@/core/online/causes";
import type { OnlineAnswer } from "@/core/online/onlineSchema";
import type { OnlineDesk } from "@/ui/online/useOnline";
import { useWhen } from "@/ui/parts/browser/useWhen";
import { useVisitWork } from "@/ui/workspace/workspaceContext";
import { ONLINE_WORDS } from "@/ui/words/onlineWords";

interface Props {
  readonly desk: OnlineDesk;
  readonly chain: Chain;
  readonly answer: OnlineAnswer;
}

/** The possible causes, the likeliest first, each with why and what puts it right. */
export function CauseList({ desk, chain, answer: { causes, pairs } }: Props) {
  const [first, ...others] = causes;
  if (!first) return null;
  return (
    <section aria-label={ONLINE_WORDS.possibleCauses} className="min-w-0 space-y-2">
      <h3 className="text-lg font-bold">{ONLINE_WORDS.possibleCauses}</h3>
      <CauseCard desk={desk} chain={chain} cause={first} isOpen />
      {others.map((cause) => (
        <CauseCard key={cause.id} desk={desk} chain={chain} cause={cause} isOpen={false} />
      ))}
      {pairs.map(({ ids, probability }) => (
        <p key={ids.join()} className="quiet text-sm">
          {ONLINE_WORDS.twoAtOnce(Math.round(100 * probability), ids.map((id) => causeOf(id).title).join(" + "))}
        </p>
      ))}
    </section>
  );
}

interface CardProps extends Omit<Props, "answer"> {
  readonly cause: OnlineAnswer["causes"][number];
  readonly isOpen: boolean;
}

function CauseCard({ desk, chain, cause: { id, title, probability, why, cure }, isOpen }: CardProps) {
  const percent = Math.round(100 * probability);
  return (
    <details className="panel p-2" open={isOpen}>
      <summary className="press cursor-pointer">
        <span className="inline-flex w-[calc(100%-1.5rem)] items-center gap-2 align-middle">
          <span className="reading w-12 shrink-0 text-right font-bold">{percent} %</span>
          <span className="min-w-0 flex-1 font-semibold">{title}</span>
        </span>
        <span aria-hidden className="mt-1 block h-1.5 rounded bg-base-300">
          <span className="block h-1.5 rounded bg-base-content" style={{ width: `${percent}%` }} />
        </span>
      </summary>
      <p className="mt-2 text-sm">{why}.</p>
      <ol className="mt-1 ml-5 list-decimal">
        {cure.map((step) => (
          <li key={step}>{step}</li>
        ))}
      </ol>
      <Tried desk={desk} device={chain.device.name} title={title} key={id} />
    </details>
  );
}

/** That it was tried, with its time: an attempt is a line of the log. */
function Tried({ desk, device, title }: { desk: OnlineDesk; device: string; title: string }) {
  const when = useWhen();
  const { log } = useVisitWork();
  const text = ONLINE_WORDS.tried(device, title);
  const tried = log.entries.filter((entry) => entry.kind === "note" && entry.text === text);
  return (
    <div className="mt-2 flex flex-wrap items-center gap-2">
      <button type="button" className="btn press" disabled={desk.person === ""} onClick={() => desk.log(text)}>
        <Wrench size={18} aria-hidden />
        {desk.person === "" ? ONLINE_WORDS.toLogItSayUnderRunWhoWorks : ONLINE_WORDS.triedIt}
      </button>
      {tried.length > 0 && (
        <span className="quiet text-sm">
          {ONLINE_WORDS.triedAt(tried.map(({ at }) => when(at, "clock")).join(", "))}
        </span>
      )}
    </div>
  );
}
