"use client";

import type * as Comlink from "comlink";
import { Save } from "lucide-react";
import { useMemo, useState } from "react";
import { batterySilence, type SilenceCause } from "@/core/links/bus/batterySilence";
import { expectedFrames } from "@/core/links/bus/canOfLink";
import type { CanLog } from "@/core/links/bus/candump";
import { readMultimeter } from "@/core/links/bus/multimeter";
import { FileButton } from "@/ui/parts/form/FileButton";
import { NumberField } from "@/ui/parts/form/NumberField";
import { SelectField } from "@/ui/parts/form/SelectField";
import { useSay } from "@/ui/parts/browser/useNumberStyle";
import { measuredBus } from "@/ui/wire/Multimeter";
import type { WireDesk } from "@/ui/wire/useWire";
import { Failure } from "@/ui/parts/show/Failure";
import { useWorkerAnswer } from "@/ui/parts/worker/useWorkerAnswer";
import type { CanLogRequest, CanLogWorker } from "@/workers/canLog.worker";
import { WIRE_WORDS } from "@/ui/words/wireWords";

const openThread = () => new Worker(new URL("../../workers/canLog.worker.ts", import.meta.url), { type: "module" });
const askLog = (worker: Comlink.Remote<CanLogWorker>, request: CanLogRequest) => worker.judge(request);
const USUAL_BITRATE = 500_000;
const MOST_LINES_NAMED = 12;

/**
 * A CAN log in candump's text form: load, identifiers and rates, which frames of the kits are missing, and why a
 * battery gave up. It stays on this page.
 */
export function CanLogReader({ wire }: { wire: WireDesk }) {
  const { busReadings } = wire.document;
  const { lines, link, choose, bitrate, setBitrate, expected } = useCanLine(wire);
  const [text, setText] = useState("");
  const isPasted = text.trim() !== "";
  const request = useMemo(
    () => (isPasted ? { text, bitrate, expected } : undefined),
    [isPasted, text, bitrate, expected],
  );
  const {
    result: log,
    isBusy,
    failure,
  } = useWorkerAnswer<CanLogWorker, CanLogRequest, CanLog>(openThread, request, askLog);
  const batteries = (link?.ends ?? []).flatMap(({ device }) => (device?.kit.kind === "battery" ? [device.name] : []));
  const bus = link && measuredBus(link);
  const readings = busReadings.filter((reading) => reading.link === link?.id);
  const causes =
    batteries.length === 0
      ? []
      : batterySilence(
          isPasted && !isBusy ? log : undefined,
          batteries,
          bus && readings.length > 0 ? readMultimeter(bus.model, readings) : undefined,
        );
  return (
    <div className="mx-auto grid max-w-6xl gap-4 lg:grid-cols-2">
      <div className="space-y-2">
        {lines.length > 1 && (
          <SelectField
            label={WIRE_WORDS.lineThatTheLogIsOf}
            value={link!.id}
            options={lines.map(({ id, name }) => ({ value: id, label: name }))}
            onValue={choose}
          />
        )}
        <LogField text={text} setText={setText} isPasted={isPasted} bitrate={bitrate} setBitrate={setBitrate} />
      </div>
      <div role="status" className="space-y-3">
        {!isPasted ? (
          <p>
            {expected.length > 0
              ? WIRE_WORDS.theKitsExpectCyclicFramesPasteALog(expected.length)
              : WIRE_WORDS.pasteALogToSeeLoadIdentifiers}
          </p>
        ) : (
          <>
            <Failure of={WIRE_WORDS.thisLog} why={failure} />
            {log ? <CanLogVerdict log={log} /> : failure === undefined && <p>{WIRE_WORDS.reading}</p>}
          </>
        )}
        {causes.length > 0 && <SilenceCauses batteries={batteries} causes={causes} />}
      </div>
    </div>
  );
}

/** The CAN line of the plan that a log is of, with its speed until another is typed. */
function useCanLine({ plan: { links } }: WireDesk) {
  const [chosen, choose] = useState<string | undefined>();
  const [typed, setBitrate] = useState<number | undefined>();
  const lines = useMemo(() => links.filter(({ kind }) => kind === "can"), [links]);
  const link = useMemo(() => lines.find(({ id }) => id === chosen) ?? lines[0], [lines, chosen]);
  const expected = useMemo(() => (link ? expectedFrames(link) : []), [link]);
  return { lines, link, choose, bitrate: typed ?? link?.baud ?? USUAL_BITRATE, setBitrate, expected };
}

function LogField({
  text,
  setText,
  isPasted,
  bitrate,
  setBitrate,
}: {
  text: string;
  setText: (next: string) => void;
  isPasted: boolean;
  bitrate: number;
  setBitrate: (next: number) => void;
}) {
  return (
    <div className="space-y-2">
      <label className="block text-sm">
        <span className="mb-0.5 block font-semibold">{WIRE_WORDS.logOneFrameALineTimeChannelIdData}</span>
        <textarea
          className="field reading h-72 whitespace-pre"
          spellCheck={false}
          value={text}
          placeholder="(12.500000) can0 6C0#0011223344556677"
          onChange={(event) => setText(event.target.value)}
        />
      </label>
      <div className="flex flex-wrap items-end gap-3">
        <FileButton accept=".log,.txt,text/plain" onText={setText}>
          {WIRE_WORDS.openAFile}
        </FileButton>
        <button type="button" className="btn press" disabled={!isPasted} onClick={() => saveText(text)}>
          <Save size={18} aria-hidden />
          {WIRE_WORDS.save}
        </button>
        <div className="w-36">
          <NumberField
            label={WIRE_WORDS.speed}
            unit="bit/s"
            whole
            least={5000}
            most={1_000_000}
            value={bitrate}
            onValue={(value) => value !== undefined && setBitrate(value)}
          />
        </div>
      </div>
    </div>
  );
}

function CanLogVerdict({ log }: { log: CanLog }) {
  const say = useSay();
  const seconds = useSeconds();
  return (
    <>
      <p className="font-bold">
        {say(WIRE_WORDS.framesInSOfTheBusAtWorst(log.frames, log.durationS.toFixed(1), log.busLoadPct.toFixed(2)))}
      </p>
      <CanTroubles log={log} />
      <table className="w-full text-left text-sm">
        <thead>
          <tr className="border-b border-base-300">
            <th scope="col">{WIRE_WORDS.id}</th>
            <th scope="col">{WIRE_WORDS.frame}</th>
            <th scope="col" className="text-right">
              {WIRE_WORDS.count}
            </th>
            <th scope="col" className="text-right">
              {WIRE_WORDS.aSecond}
            </th>
            <th scope="col" className="text-right">
              {WIRE_WORDS.last}
            </th>
          </tr>
        </thead>
        <tbody>
          {log.lines.map((line) => (
            <tr key={`${line.isExtended} ${line.id}`} className="border-b border-base-300">
              <th scope="row" className="reading font-normal">
                {line.id.toString(16).toUpperCase()}
              </th>
              <td>{line.name ?? WIRE_WORDS.notInTheKits}</td>
              <td className="reading text-right">{line.count}</td>
              <td className="reading text-right">{say(line.perSecond.toFixed(2))}</td>
              <td className="reading text-right">{seconds(line.lastS)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}

/** Error frames, lines that are none, frames that are missed. */
function CanTroubles({ log }: { log: CanLog }) {
  const seconds = useSeconds();
  return (
    <>
      {log.errorFrames > 0 && (
        <p className="font-semibold text-warning">
          {WIRE_WORDS.errorFrames(
            log.errorFrames,
            log.errors.map(({ words, count }) => `${words} (${count})`).join(", "),
          )}
        </p>
      )}
      {log.unreadable.length > 0 && (
        <p className="text-warning">
          {WIRE_WORDS.linesThatAreNoFrame(
            log.unreadable.slice(0, MOST_LINES_NAMED).join(", "),
            log.unreadable.length > MOST_LINES_NAMED
              ? WIRE_WORDS.andMore(log.unreadable.length - MOST_LINES_NAMED)
              : "",
          )}
        </p>
      )}
      {log.missing.map(({ frame, lastS, silentS }) => (
        <p key={frame.id} className="font-semibold text-warning">
          {frame.sender}, {frame.name}:{" "}
          {lastS === undefined ? WIRE_WORDS.neverCame : WIRE_WORDS.lastAtSilentFor(seconds(lastS), seconds(silentS))}.
        </p>
      ))}
    </>
  );
}

function SilenceCauses({ batteries, causes }: { batteries: string[]; causes: readonly SilenceCause[] }) {
  return (
    <section aria-label={WIRE_WORDS.ifTheBatteryGaveUp}>
      <h3 className="font-bold">
        {WIRE_WORDS.if} {batteries[0]} {WIRE_WORDS.gaveUpCheckInThisOrder}
      </h3>
      <ol className="space-y-1 text-sm">
        {causes.map(({ cause, share, text: words, check }) => (
          <li key={cause} className="rounded border border-base-300 p-2">
            <span className="reading mr-2 font-bold">{Math.round(100 * share)} %</span>
            {words}. <b>{check}.</b>
          </li>
        ))}
      </ol>
    </section>
  );
}

function useSeconds(): (seconds: number) => string {
  const say = useSay();
  return (seconds) => say(`${seconds.toFixed(1)} s`);
}

function saveText(text: string): void {
  const url = URL.createObjectURL(new Blob([text], { type: "text/plain" }));
  const anchor = document.createElement("a");
  anchor.href = url;
  anchor.download = "can.log";
  anchor.click();
  URL.revokeObjectURL(url);
}
