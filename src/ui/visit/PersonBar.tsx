"use client";

import { UserRound } from "lucide-react";
import { useId, useState } from "react";
import { personSchema, type VisitEntry } from "@/core/visit/visitEntry";
import { cutText } from "@/core/text";
import { downloadText } from "@/ui/parts/browser/downloadText";
import type { VisitDesk } from "@/ui/visit/useVisitStage";
import { VISIT_WORDS } from "@/ui/words/visitWords";

/** Who works here, and what of the log the server would not take. */
export function PersonBar({ desk }: { desk: VisitDesk }) {
  const { log } = desk;
  const refused = log.waiting.filter((waiting) => waiting.refused !== undefined);
  return (
    <div className="flex-none border-b border-base-300 bg-base-200 px-4 py-1.5 max-md:px-3">
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
        <PersonField desk={desk} />
      </div>
      {log.broken.map(({ key, text }, at) => (
        <BrokenEntry key={key} kept={key} at={at} text={text} desk={desk} />
      ))}
      {refused.map(({ entry, refused: why }) => (
        <RefusedEntry key={entry.id} entry={entry} why={why} desk={desk} />
      ))}
    </div>
  );
}

function PersonField({ desk: { person, setPerson, log } }: { desk: VisitDesk }) {
  const id = useId();
  const [typed, setTyped] = useState<string | undefined>();
  const names = [...new Set(log.entries.map((entry) => entry.person))];
  const problem = typed === undefined ? undefined : personSchema.safeParse(typed).error?.issues[0]?.message;
  return (
    <>
      <label
        htmlFor={id}
        className={
          "flex min-w-0 flex-1 items-center gap-2 whitespace-nowrap text-sm font-semibold " +
          "max-md:basis-full md:max-w-96"
        }
      >
        <UserRound size={18} aria-hidden />
        {VISIT_WORDS.youAre}
        <input
          id={id}
          list={`${id}-names`}
          className="field min-w-0 flex-1 font-normal"
          autoComplete="off"
          placeholder={VISIT_WORDS.yourName}
          value={typed ?? person}
          aria-invalid={problem !== undefined}
          aria-describedby={`${id}-hint`}
          onChange={(event) => {
            setTyped(event.target.value);
            const good = personSchema.safeParse(event.target.value);
            if (good.success) setPerson(good.data);
          }}
          onBlur={() => problem === undefined && setTyped(undefined)}
        />
        <datalist id={`${id}-names`}>
          {names.map((name) => (
            <option key={name} value={name} />
          ))}
        </datalist>
      </label>
      <p
        id={`${id}-hint`}
        role={problem || person === "" ? "alert" : undefined}
        className="text-sm font-semibold text-warning"
      >
        {problem ?? (person === "" ? VISIT_WORDS.sayWhoWorksHereBeforeAnything : "")}
      </p>
    </>
  );
}

function BrokenEntry({ kept, at, text, desk }: { kept: string; at: number; text: string; desk: VisitDesk }) {
  const { recorder } = desk;
  return (
    <div role="alert" className="mt-1 flex flex-wrap items-center gap-2 rounded border-2 border-error p-2 text-sm">
      <span className="min-w-0 flex-1 max-md:basis-full">
        <b>{VISIT_WORDS.aKeptEntryCannotBeRead}</b>
        {VISIT_WORDS.itStaysHereAsItIsSaveItAsAFile}
      </span>
      <button
        type="button"
        className="btn btn-sm press"
        onClick={() => downloadText(`gormit-entry-${at + 1}.json`, text)}
      >
        {VISIT_WORDS.saveAsAFile}
      </button>
      <button type="button" className="btn btn-sm press" onClick={() => void recorder.dropBroken(kept)}>
        {VISIT_WORDS.letItGo}
      </button>
    </div>
  );
}

function RefusedEntry({ entry, why, desk }: { entry: VisitEntry; why: string | undefined; desk: VisitDesk }) {
  const { recorder } = desk;
  return (
    <div role="alert" className="mt-1 flex flex-wrap items-center gap-2 rounded border-2 border-error p-2 text-sm">
      <span className="min-w-0 flex-1 max-md:basis-full">
        <b>{VISIT_WORDS.notTaken}</b>
        {VISIT_WORDS.whatIsWrong("title" in entry ? entry.title : `${entry.kind} “${cutText(entry.text, 60)}”`)}{" "}
        {why?.replace(/\.$/, "")}
        {VISIT_WORDS.itIsKeptHere}
      </span>
      <button type="button" className="btn btn-sm press" onClick={() => void recorder.settleRefused(entry.id, "again")}>
        {VISIT_WORDS.sendAgain}
      </button>
      <button type="button" className="btn btn-sm press" onClick={() => void recorder.settleRefused(entry.id, "drop")}>
        {VISIT_WORDS.letItGo}
      </button>
    </div>
  );
}
