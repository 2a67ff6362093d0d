"use client";

import { Check, Hourglass, RotateCcw, TriangleAlert } from "lucide-react";
import type { Chain } from "@/core/chain/chainOf";
import type { OnlineAnswer } from "@/core/online/onlineSchema";
import { CHANGED_IDS, CHANGES } from "@/core/online/ways";
import { CauseList } from "@/ui/online/CauseList";
import { CheckCards } from "@/ui/online/CheckCards";
import { LadderLine } from "@/ui/online/LadderLine";
import { SeenList } from "@/ui/online/SeenList";
import { TryByItself } from "@/ui/online/TryByItself";
import type { OnlineDesk } from "@/ui/online/useOnline";
import { useWhen } from "@/ui/parts/browser/useWhen";
import { SelectField } from "@/ui/parts/form/SelectField";
import { StageLink } from "@/ui/workspace/frame/stageMoves";
import { useJob } from "@/ui/workspace/workspaceContext";
import { ONLINE_WORDS } from "@/ui/words/onlineWords";

const MS_A_MIN = 60_000;

/** One device: what is seen, what is likely wrong, what is looked at next, or how long to wait. */
export function BreakPart({ desk, chain }: { desk: OnlineDesk; chain: Chain }) {
  const { id } = useJob();
  const { answer, device, record } = chain;
  if (!answer)
    return (
      <section aria-label={device.name} className="panel p-3">
        <p className="font-bold">{ONLINE_WORDS.hasNoWayToBeSeen(device.name)}</p>
        <p>
          {ONLINE_WORDS.joinItToTheRouterAModuleAHub}
          <StageLink className="link" href={`/jobs/${id}/wire`}>
            {ONLINE_WORDS.wire}
          </StageLink>
          .
        </p>
      </section>
    );
  return (
    <section aria-label={ONLINE_WORDS.wayOnlineOf(device.name)} className="min-w-0 space-y-3">
      <LadderLine chain={chain} />
      <div className="flex flex-wrap items-end gap-3">
        <div className="w-60 max-w-full">
          <SelectField
            label={ONLINE_WORDS.whatChangedLately}
            value={chain.request?.changed ?? ""}
            options={[
              { value: "", label: ONLINE_WORDS.notKnown },
              ...CHANGES.map(({ id: value, name: label }) => ({ value, label })),
            ]}
            onValue={(value) => desk.set(device.id, { changed: CHANGED_IDS.find((own) => own === value) })}
          />
        </div>
        <OwnerSees desk={desk} chain={chain} />
      </div>
      {record.ownerSeesAt === undefined && (
        <>
          {answer.restart && <p className="caution">{answer.restart}</p>}
          <WaitLine desk={desk} wait={answer.wait} />
          <Contradiction answer={answer} />
          <div className="grid items-start gap-3 xl:grid-cols-2">
            <div className="min-w-0 space-y-3">
              <CheckCards key={answer.nextChecks[0]?.check} desk={desk} chain={chain} answer={answer} />
              <TryByItself desk={desk} chain={chain} />
              <SeenList desk={desk} chain={chain} />
            </div>
            <CauseList desk={desk} chain={chain} answer={answer} />
          </div>
        </>
      )}
    </section>
  );
}

function OwnerSees({ desk, chain: { device, record } }: { desk: OnlineDesk; chain: Chain }) {
  const when = useWhen();
  if (record.ownerSeesAt === undefined)
    return (
      <button
        type="button"
        className="btn press"
        onClick={() => {
          desk.set(device.id, { ownerSeesAt: new Date().toISOString() });
          desk.log(ONLINE_WORDS.itsOwnerSeesIt(device.name));
        }}
      >
        <Check size={18} aria-hidden />
        {ONLINE_WORDS.theOwnerSeesItsData}
      </button>
    );
  return (
    <p className="flex flex-wrap items-center gap-2 font-semibold text-success">
      <Check size={18} aria-hidden />
      {ONLINE_WORDS.theOwnerSawItsDataAt(when(record.ownerSeesAt, "minute"))}
      <button type="button" className="btn press" onClick={() => desk.set(device.id, { ownerSeesAt: undefined })}>
        <RotateCcw size={18} aria-hidden />
        {ONLINE_WORDS.notAnyMore}
      </button>
    </p>
  );
}

function WaitLine({ desk: { nowMs }, wait }: { desk: OnlineDesk; wait: OnlineAnswer["wait"] }) {
  const when = useWhen();
  if (!wait || nowMs === undefined) return null;
  return (
    <div role="status" className="panel flex gap-2 border-2 !border-info p-3">
      <Hourglass size={22} className="shrink-0" aria-hidden />
      <div>
        <p className="text-lg font-bold">
          {ONLINE_WORDS.waitUntil(when(new Date(nowMs + wait.minutes * MS_A_MIN).toISOString(), "clock"))}
        </p>
        <p className="text-sm">{ONLINE_WORDS.doMeanwhileWhatDoesNotNeedIt(wait.why)}</p>
      </div>
    </div>
  );
}

function Contradiction({ answer: { contradiction } }: { answer: OnlineAnswer }) {
  if (!contradiction) return null;
  return (
    <div role="status" className="panel flex gap-2 border-2 !border-warning p-3">
      <TriangleAlert size={22} className="shrink-0" aria-hidden />
      <div>
        <p className="font-bold">{ONLINE_WORDS.nothingExplainsAllOfThis}</p>
        <p className="text-sm">{contradiction.why}</p>
      </div>
    </div>
  );
}
