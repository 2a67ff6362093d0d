"use client";

import { UserRound } from "lucide-react";
import { useId, useState } from "react";
import { personSchema, type VisitEntry } from "@/core/visit/visitEntry";
import { cutText } from "@/core/text";
import { downloadText } from "@/ui/parts/browser/downloadText";
import type { VisitDesk } from "@/ui/visit/useVisitStage";

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
        You are
        <input
          id={id}
          list={`${id}-names`}
          className="field min-w-0 flex-1 font-normal"
          autoComplete="off"
          placeholder="your name"
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
        {problem ?? (person === "" ? "Say who works here before anything is recorded" : "")}
      </p>
    </>
  );
}

function BrokenEntry({ kept, at, text, desk }: { kept: string; at: number; text: string; desk: VisitDesk }) {
  const { recorder } = desk;
  return (
    <div role="alert" className="mt-1 flex flex-wrap items-center gap-2 rounded border-2 border-error p-2 text-sm">
      <span className="min-w-0 flex-1 max-md:basis-full">
        <b>A kept entry cannot be read</b>. It stays here as it is; save it as a file before you let it go.
      </span>
      <button
        type="button"
        className="btn btn-sm press"
        onClick={() => downloadText(`gormit-entry-${at + 1}.json`, text)}
      >
        Save as a file
      </button>
      <button type="button" className="btn btn-sm press" onClick={() => void recorder.dropBroken(kept)}>
        Let it go
      </button>
    </div>
  );
}

function RefusedEntry({ entry, why, desk }: { entry: VisitEntry; why: string | undefined; desk: VisitDesk }) {
  const { recorder } = desk;
  return (
    <div role="alert" className="mt-1 flex flex-wrap items-center gap-2 rounded border-2 border-error p-2 text-sm">
      <span className="min-w-0 flex-1 max-md:basis-full">
        <b>Not taken</b>: {"title" in entry ? entry.title : `${entry.kind} “${cutText(entry.text, 60)}”`}. What is
        wrong: {why?.replace(/\.$/, "")}. It is kept here.
      </span>
      <button type="button" className="btn btn-sm press" onClick={() => void recorder.settleRefused(entry.id, "again")}>
        Send again
      </button>
      <button type="button" className="btn btn-sm press" onClick={() => void recorder.settleRefused(entry.id, "drop")}>
        Let it go
      </button>
    </div>
  );
}
