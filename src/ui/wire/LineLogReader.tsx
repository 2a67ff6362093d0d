"use client";

import type * as Comlink from "comlink";
import { Save } from "lucide-react";
import { useMemo, useState } from "react";
import type { LineLog } from "@/core/links/bus/lineLog";
import { lineFrameText, lineLogText, unitNames } from "@/core/links/bus/lineLogText";
import { downloadText } from "@/ui/parts/browser/downloadText";
import { useSay } from "@/ui/parts/browser/useNumberStyle";
import { FileButton } from "@/ui/parts/form/FileButton";
import { Failure } from "@/ui/parts/show/Failure";
import { useWorkerAnswer } from "@/ui/parts/worker/useWorkerAnswer";
import { LineListener } from "@/ui/wire/LineListener";
import type { WireDesk } from "@/ui/wire/useWire";
import type { LineLogWorker } from "@/workers/lineLog.worker";
import { WIRE_WORDS } from "@/ui/words/wireWords";

const openThread = () => new Worker(new URL("../../workers/lineLog.worker.ts", import.meta.url), { type: "module" });
const askLog = (worker: Comlink.Remote<LineLogWorker>, text: string) => worker.read(text);
const MOST_FRAMES = 200;
const MOST_LINES_NAMED = 12;

/** The bytes of a serial line as somebody recorded them: who is asked how often, who answers, and what is wrong. */
export function LineLogReader({ wire }: { wire: WireDesk }) {
  const [text, setText] = useState("");
  const names = useMemo(() => unitNames(wire.plan.links), [wire.plan.links]);
  const isPasted = text.trim() !== "";
  const { result: log, failure } = useWorkerAnswer<LineLogWorker, string, LineLog>(
    openThread,
    isPasted ? text : undefined,
    askLog,
  );
  return (
    <div className="mx-auto grid max-w-6xl gap-4 lg:grid-cols-2">
      <div className="space-y-2">
        <label className="block text-sm">
          <span className="mb-0.5 block font-semibold">{WIRE_WORDS.bytesOfTheLineWithTheTimeInS}</span>
          <textarea
            className="field reading h-72 whitespace-pre"
            spellCheck={false}
            value={text}
            placeholder="0.000 0B 03 1B 58 00 02 43 96"
            onChange={(event) => setText(event.target.value)}
          />
        </label>
        <div className="flex flex-wrap gap-3">
          <FileButton accept=".log,.txt,text/plain" onText={setText}>
            {WIRE_WORDS.openAFile}
          </FileButton>
          <button
            type="button"
            className="btn press"
            disabled={!isPasted || !log}
            onClick={() => log && downloadText("line.txt", lineLogText(log, names))}
          >
            <Save size={18} aria-hidden />
            {WIRE_WORDS.saveInWords}
          </button>
        </div>
        <LineListener wire={wire} onText={setText} />
        <p className="quiet text-sm">{WIRE_WORDS.listenedToNothingIsSentAnAdapter}</p>
      </div>
      <div role="status" className="min-w-0 space-y-3">
        <Failure of={WIRE_WORDS.thisLog} why={isPasted ? failure : undefined} />
        {!isPasted ? (
          <p>{WIRE_WORDS.pasteWhatASerialAdapterRecorded}</p>
        ) : (
          log && <LineVerdict log={log} names={names} />
        )}
      </div>
    </div>
  );
}

interface VerdictProps {
  readonly log: LineLog;
  readonly names: ReadonlyMap<number, string>;
}

function LineVerdict({ log, names }: VerdictProps) {
  const never = [...names].filter(([unit]) => !log.units.some((asked) => asked.unit === unit));
  return (
    <>
      <p className="font-bold">{WIRE_WORDS.framesRequestsBytes(log.frames.length, log.exchanges.length, log.bytes)}</p>
      {log.troubles.map(({ kind, words }) => (
        <p key={kind} className="font-semibold text-warning">
          {words}.
        </p>
      ))}
      {log.troubles.length === 0 && log.frames.length > 0 && <p>{WIRE_WORDS.everyFrameHasARightCheck}</p>}
      {log.frames.length > 0 && never.length > 0 && (
        <p className="font-semibold text-warning">
          {WIRE_WORDS.inThePlanAndNeverAsked(never.map(([unit, name]) => `${name} (${unit})`).join(", "))}
        </p>
      )}
      {log.unreadable.length > 0 && (
        <p className="text-warning">
          {WIRE_WORDS.linesThatAreNoBytes(
            log.unreadable.slice(0, MOST_LINES_NAMED).join(", "),
            log.unreadable.length > MOST_LINES_NAMED
              ? WIRE_WORDS.andMore(log.unreadable.length - MOST_LINES_NAMED)
              : "",
          )}
        </p>
      )}
      {log.units.length > 0 && <UnitTable log={log} names={names} />}
      <FrameList log={log} names={names} />
    </>
  );
}

function UnitTable({ log, names }: VerdictProps) {
  const say = useSay();
  return (
    <div className="overflow-x-auto" role="region" aria-label={WIRE_WORDS.devicesOfTheLine} tabIndex={0}>
      <table className="w-full text-left text-sm">
        <thead>
          <tr className="border-b border-base-300">
            {[
              WIRE_WORDS.unit,
              WIRE_WORDS.asked,
              WIRE_WORDS.answered,
              WIRE_WORDS.refused,
              WIRE_WORDS.aSecond,
              WIRE_WORDS.answersAfter,
              WIRE_WORDS.registers,
            ].map((head) => (
              <th key={head} scope="col" className="pr-3">
                {head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {log.units.map(({ unit, asked, answered, refused, perSecond, answerS, registers }) => (
            <tr key={unit} className="border-b border-base-300 align-top">
              <th scope="row" className="pr-3">
                {unit} <span className="font-normal">{names.get(unit) ?? WIRE_WORDS.notInThePlan}</span>
              </th>
              <td className="reading pr-3">{asked}</td>
              <td className="reading pr-3">{answered}</td>
              <td className="reading pr-3">{refused}</td>
              <td className="reading pr-3">{perSecond === undefined ? "" : say(perSecond.toFixed(2))}</td>
              <td className="reading pr-3">
                {answerS === undefined ? "" : say(WIRE_WORDS.ms(Math.round(1000 * answerS)))}
              </td>
              <td className="reading">{registers.join(", ")}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

function FrameList({ log, names }: VerdictProps) {
  const say = useSay();
  if (log.frames.length === 0) return null;
  return (
    <details>
      <summary className="press flex cursor-pointer items-center font-semibold">{WIRE_WORDS.frameByFrame}</summary>
      <ol className="text-sm">
        {log.frames.slice(0, MOST_FRAMES).map((frame, at) => (
          <li key={at}>
            {frame.atS !== undefined && <span className="reading mr-2">{say(frame.atS.toFixed(3))}</span>}
            {lineFrameText(frame, names)}
          </li>
        ))}
      </ol>
      {log.frames.length > MOST_FRAMES && (
        <p className="quiet text-sm">{WIRE_WORDS.andMoreSaveThemInWords(log.frames.length - MOST_FRAMES)}</p>
      )}
    </details>
  );
}
