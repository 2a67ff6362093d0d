"use client";

import { useState } from "react";
import type { Chain } from "@/core/chain/chainOf";
import { lampPatterns, patternWords } from "@/core/chain/lampPatterns";
import { seenWords } from "@/core/chain/seenWords";
import { checkOf, COMMON_CHECK_IDS, type CheckId, type CommonCheckId } from "@/core/online/checks";
import type { Observed, OnlineAnswer } from "@/core/online/onlineSchema";
import { capital } from "@/core/words";
import { AddressOutcome, NumberOutcome, TextOutcome } from "@/ui/online/TypedOutcome";
import type { OnlineDesk } from "@/ui/online/useOnline";
import { ONLINE_WORDS } from "@/ui/words/onlineWords";

const LAMP_QUESTION = ONLINE_WORDS.whatDoItsLampsShow;
const LAMP_HOW = ONLINE_WORDS.watchAWholeMinuteInTheShade;

interface Props {
  readonly desk: OnlineDesk;
  readonly chain: Chain;
  readonly answer: OnlineAnswer;
}

/** What to look at next, with its outcomes to tap; any other check for who already knows. */
export function CheckCards({ desk, chain, answer: { nextChecks } }: Props) {
  const [other, setOther] = useState<CheckId | undefined>();
  const next = nextChecks[0];
  const hasLamps = lampPatterns(chain.device.kit).length > 0;
  const all: CheckId[] = [
    ...(hasLamps ? ["lamp" as const] : []),
    ...COMMON_CHECK_IDS.filter((id) => chain.way === undefined || (checkOf(id).ways?.includes(chain.way) ?? true)),
  ];
  const shown = other ?? next?.check;
  const why = nextChecks.find(({ check }) => check === shown)?.why;
  return (
    <section aria-label={ONLINE_WORDS.lookAtNext} className="panel space-y-2 p-3">
      <h3 className="text-sm font-bold">
        {shown === undefined ? ONLINE_WORDS.nothingMoreToLookAt : other ? ONLINE_WORDS.seen : ONLINE_WORDS.lookAtNext}
      </h3>
      {shown && <CheckCard key={shown} check={shown} chain={chain} onSeen={(seen) => seeIt(desk, chain, seen)} />}
      {why && <p className="quiet text-sm">{why}.</p>}
      <label className="block text-sm">
        <span className="mb-0.5 block font-semibold">{ONLINE_WORDS.somethingElseWasSeen}</span>
        <select
          className="field"
          value={other ?? ""}
          onChange={(event) => setOther(all.find((id) => id === event.target.value))}
        >
          <option value="">{ONLINE_WORDS.asAdvised}</option>
          {all.map((id) => (
            <option key={id} value={id}>
              {questionOf(id)}
            </option>
          ))}
        </select>
      </label>
    </section>
  );
}

function seeIt(desk: OnlineDesk, chain: Chain, seen: Observed): void {
  desk.see(chain.device.id, [seen]);
  desk.log(ONLINE_WORDS.seenOf(chain.device.name, seenWords(seen, chain)));
}

function questionOf(check: CheckId): string {
  return check === "lamp" ? LAMP_QUESTION : checkOf(check).question;
}

interface CardProps {
  readonly check: CheckId;
  readonly chain: Chain;
  readonly onSeen: (seen: Observed) => void;
}

function CheckCard({ check, chain, onSeen }: CardProps) {
  return (
    <>
      <p className="text-lg font-bold">{questionOf(check)}</p>
      <p className="text-sm">{check === "lamp" ? LAMP_HOW : checkOf(check).how}.</p>
      {check === "lamp" ? <LampOutcomes chain={chain} onSeen={onSeen} /> : <Outcomes check={check} onSeen={onSeen} />}
    </>
  );
}

/** The patterns of the kit, in words: lamp, colour, rhythm and count, and what it means. */
function LampOutcomes({ chain, onSeen }: Omit<CardProps, "check">) {
  return (
    <ul className="space-y-1">
      {lampPatterns(chain.device.kit).map(({ id, lamp }) => (
        <li key={id}>
          <button
            type="button"
            className="press w-full rounded border border-base-content/40 p-2 text-left"
            onClick={() => onSeen({ check: "lamp", outcome: id })}
          >
            <b>
              {lamp.lamp}: {patternWords(lamp)}
            </b>
            <span className="quiet block text-sm">{lamp.means}</span>
          </button>
        </li>
      ))}
    </ul>
  );
}

function Outcomes({ check, onSeen }: { check: CommonCheckId; onSeen: CardProps["onSeen"] }) {
  const { typed, outcomes, unit } = checkOf(check);
  const see = (outcome: string | number) => onSeen({ check, outcome });
  if (typed === "address") return <AddressOutcome onOutcome={see} />;
  if (typed === "number") return <NumberOutcome check={check} unit={unit ?? ""} onOutcome={see} />;
  if (check === "display") return <TextOutcome onOutcome={see} />;
  return (
    <div className="grid gap-2 sm:grid-cols-2">
      {Object.entries(outcomes).map(([outcome, words]) => (
        <button
          key={outcome}
          type="button"
          className="btn press h-auto justify-start py-2 text-left"
          onClick={() => see(outcome)}
        >
          {capital(words)}
        </button>
      ))}
    </div>
  );
}
