"use client";

import { useState } from "react";
import { readBack, type ReadBack } from "@/core/live/readBack";
import { readSettings, writeSetting } from "@/ui/live/liveCalls";
import { useSay } from "@/ui/parts/browser/useNumberStyle";
import { usePerson } from "@/ui/parts/browser/usePerson";
import { Failure } from "@/ui/parts/show/Failure";
import { useVisitWriter } from "@/ui/visit/useVisitWriter";
import { useEditor, useJob, useVisitWork } from "@/ui/workspace/workspaceContext";
import { LIVE_WORDS } from "@/ui/words/liveWords";

/** What the device says of itself beside what was planned and typed; asked when somebody wants to know. */
export function SettingsOfDevice({ jobId, link, device }: { jobId: string; link: string; device: string }) {
  const { document } = useJob();
  const editor = useEditor();
  const visit = useVisitWork();
  const { log } = visit;
  const { person } = usePerson();
  const writer = useVisitWriter(visit, person, document.visit.id);
  const [why, setWhy] = useState<string | undefined>();
  const kept = document.readBacks.find(({ id }) => id === device);
  const typed = log.entries.findLast((entry) => entry.kind === "result" && entry.step === `serial:${device}`);
  const ask = async () => {
    const called = await readSettings(jobId, link, device);
    setWhy(called.kind === "failed" ? called.problem.message : undefined);
    if (called.kind !== "ok") return;
    const values = called.value.map(({ atMs: _, ...value }) => value);
    editor.edit((before) => ({
      ...before,
      readBacks: [
        ...before.readBacks.filter(({ id }) => id !== device),
        { id: device, at: new Date().toISOString(), values },
      ],
    }));
  };
  const serial = typed?.kind === "result" ? typed.serial : undefined;
  const read = kept && readBack(document, device, kept.values, serial);
  const different = read?.filter(({ isDifferent }) => isDifferent) ?? [];
  return (
    <div className="space-y-1">
      <button type="button" className="btn btn-sm press" onClick={() => void ask()}>
        {LIVE_WORDS.readBack}
      </button>
      <Failure of={LIVE_WORDS.readingBack} why={why} />
      {read && <DifferenceLine count={different.length} />}
      {read && <SettingsTable read={read} />}
      {different.flatMap(({ what, planned, unit, cure }) =>
        cure ? (
          <ArmedWrite
            key={what}
            words={`${planned ?? ""} ${unit}`.trim()}
            what={what}
            onWrite={async () => {
              const problem = await writeSetting(jobId, link, device, cure);
              setWhy(problem?.message);
              if (!problem) writer.note(LIVE_WORDS.writtenInto(device, what, planned ?? "", unit));
              await ask();
            }}
          />
        ) : (
          []
        ),
      )}
    </div>
  );
}

function DifferenceLine({ count }: { readonly count: number }) {
  return (
    <p role="status" className={count > 0 ? "font-semibold text-warning" : "text-success"}>
      {count === 0
        ? LIVE_WORDS.setAsPlannedAndTyped
        : count === 1
          ? LIVE_WORDS.oneSettingDiffersFromThePlan
          : LIVE_WORDS.settingsDifferFromThePlan(count)}
    </p>
  );
}

function SettingsTable({ read }: { read: readonly ReadBack[] }) {
  const say = useSay();
  return (
    <table className="w-full text-left text-sm">
      <thead>
        <tr className="border-b border-base-300">
          <th scope="col">{LIVE_WORDS.setting}</th>
          <th scope="col">{LIVE_WORDS.plannedOrTyped}</th>
          <th scope="col">{LIVE_WORDS.read}</th>
        </tr>
      </thead>
      <tbody>
        {read.map(({ what, unit, planned, read: own, isDifferent }) => (
          <tr key={what} className={isDifferent ? "font-bold text-warning" : ""}>
            <th scope="row" className="pr-2 font-normal">
              {what}
            </th>
            <td className="reading pr-2">{planned === undefined ? LIVE_WORDS.notSaid : say(`${planned} ${unit}`)}</td>
            <td className="reading">
              {say(`${own} ${unit}`)}
              {isDifferent && ` ${LIVE_WORDS.differs}`}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

interface ArmedProps {
  readonly what: string;
  readonly words: string;
  readonly onWrite: () => Promise<void>;
}

/** Writing is armed for this one setting, then done; a name in the log is wanted first. */
function ArmedWrite({ what, words, onWrite }: ArmedProps) {
  const { person } = usePerson();
  const say = useSay();
  const [isArmed, setIsArmed] = useState(false);
  const [isBusy, setIsBusy] = useState(false);
  if (!isArmed)
    return (
      <button type="button" className="btn btn-sm press" disabled={person === ""} onClick={() => setIsArmed(true)}>
        {person === "" ? LIVE_WORDS.toWriteSayUnderRunWhoYouAre(what) : LIVE_WORDS.writeAsPlanned(what)}
      </button>
    );
  return (
    <div className="caution space-y-2">
      <p>
        {LIVE_WORDS.thisWrites} <strong>{say(words)}</strong> {LIVE_WORDS.asIntoTheDeviceReadsItBack(what)}
      </p>
      <div className="flex flex-wrap gap-2">
        <button
          type="button"
          className="btn btn-primary btn-sm press"
          disabled={isBusy}
          onClick={() => {
            setIsBusy(true);
            void onWrite().then(() => {
              setIsBusy(false);
              setIsArmed(false);
            });
          }}
        >
          {LIVE_WORDS.writeItNow}
        </button>
        <button type="button" className="btn btn-sm press" onClick={() => setIsArmed(false)}>
          {LIVE_WORDS.cancel}
        </button>
      </div>
    </div>
  );
}
