"use client";

import { Download, Printer, ZoomIn } from "lucide-react";
import { FromServer } from "@/ui/parts/show/FromServer";
import { useState } from "react";
import type { WiringGroup } from "@/core/links/wiring/meterWiring";
import { saidWiring } from "@/core/links/wiring/saidWiring";
import { SIGNAL_WORDS, type CoreEnd, type CoreRow } from "@/core/links/wiring/wiringSchedule";
import { useSay } from "@/ui/parts/browser/useNumberStyle";
import type { WireDesk } from "@/ui/wire/useWire";
import { WIRE_WORDS } from "@/ui/words/wireWords";

/**
 * One row a core, from terminal to terminal, ticked as it is terminated; or one at a time in large type for the ladder.
 */
export function WiringList({ wire }: { wire: WireDesk }) {
  const { document, plan, jobId, tick } = wire;
  const [isLarge, setLarge] = useState(false);
  const groups = saidWiring(plan, useSay());
  const rows = groups.flatMap((group) => group.rows);
  const done = new Set(document.terminated);
  const left = rows.filter((row) => !done.has(row.id));
  if (rows.length === 0) return <p className="mx-auto max-w-6xl">{WIRE_WORDS.noCoreToTerminateYetAddAMeterUnder}</p>;
  return (
    <div className="mx-auto max-w-6xl space-y-3">
      <div className="flex flex-wrap items-center gap-3">
        <span role="status" className="mr-auto">
          {WIRE_WORDS.ofRowsDone(rows.length - left.length, rows.length)}
        </span>
        <button
          type="button"
          aria-pressed={isLarge}
          className={`btn press ${isLarge ? "btn-neutral" : ""}`}
          onClick={() => setLarge(!isLarge)}
        >
          <ZoomIn size={18} aria-hidden />
          {WIRE_WORDS.oneAtATime}
        </button>
        <FromServer href={`/api/v1/jobs/${jobId}/wiring.pdf`} target="_blank" rel="noreferrer">
          <Printer size={18} aria-hidden />
          {WIRE_WORDS.pdf}
        </FromServer>
        <FromServer href={`/api/v1/jobs/${jobId}/wiring.csv`} download>
          <Download size={18} aria-hidden />
          {WIRE_WORDS.csv}
        </FromServer>
      </div>
      <p className="caution">{WIRE_WORDS.isolateAndProveDeadBeforeYouOpen}</p>
      {isLarge ? <OneCore row={left[0]} onDone={tick} /> : <CoreTable groups={groups} done={done} wire={wire} />}
    </div>
  );
}

function CoreTable({
  groups,
  done,
  wire,
}: {
  groups: readonly WiringGroup[];
  done: ReadonlySet<string>;
  wire: WireDesk;
}) {
  return (
    <div className="overflow-x-auto" role="region" aria-label={WIRE_WORDS.wiringSchedule} tabIndex={0}>
      <table className="stacked w-full text-left text-sm">
        <thead>
          <tr className="border-b-2 border-base-300">
            <th scope="col" className="w-12">
              <span className="sr-only">{WIRE_WORDS.terminated}</span>
            </th>
            <th scope="col" className="pr-3">
              {WIRE_WORDS.signal}
            </th>
            <th scope="col" className="pr-3">
              {WIRE_WORDS.core}
            </th>
            <th scope="col" className="pr-3">
              {WIRE_WORDS.from}
            </th>
            <th scope="col" className="pr-3">
              {WIRE_WORDS.to}
            </th>
            <th scope="col">{WIRE_WORDS.note}</th>
          </tr>
        </thead>
        {groups.map((group) => (
          <tbody key={group.id}>
            <tr>
              <th scope="rowgroup" colSpan={6} className="pt-3 font-bold">
                {group.name}
              </th>
            </tr>
            {group.rows.map((row) => (
              <CoreLine key={row.id} row={row} done={done} wire={wire} />
            ))}
          </tbody>
        ))}
      </table>
    </div>
  );
}

function CoreLine({ row, done, wire }: { row: CoreRow; done: ReadonlySet<string>; wire: WireDesk }) {
  return (
    <tr className={`border-b border-base-300 align-top ${done.has(row.id) ? "quiet" : ""}`}>
      <td className="max-md:float-left">
        <label className="press flex items-center justify-center">
          <input type="checkbox" className="checkbox" checked={done.has(row.id)} onChange={() => wire.tick(row.id)} />
          <span className="sr-only">{coreName(row)}</span>
        </label>
      </td>
      <td className="py-2 pr-3 max-md:font-bold max-md:leading-[44px]">{SIGNAL_WORDS[row.role] ?? row.role}</td>
      <td data-column={WIRE_WORDS.core} className="clear-left py-2 pr-3">
        <span>
          {row.colour}
          <span className="quiet block">{row.pair}</span>
          <span className="quiet block text-xs">{row.cable}</span>
        </span>
      </td>
      <td data-column={WIRE_WORDS.from} className="py-2 pr-3">
        <span>
          <EndText end={row.from} />
        </span>
      </td>
      <td data-column={WIRE_WORDS.to} className="py-2 pr-3">
        <span>{row.to ? <EndText end={row.to} /> : "—"}</span>
      </td>
      <td data-column={WIRE_WORDS.note} className={`py-2 ${row.notes.length > 0 ? "" : "max-md:hidden"}`}>
        <span>{row.notes.join("; ")}</span>
      </td>
    </tr>
  );
}

function EndText({ end }: { end: CoreEnd }) {
  return (
    <>
      <b className="reading text-base">{end.terminal}</b>
      {end.pin !== undefined && <span className="reading"> {WIRE_WORDS.pinOf(end.pin)}</span>}
      <span className="block">
        {end.item}, {end.port}
      </span>
      {end.ferrule && <span className="quiet block">{WIRE_WORDS.ferrule(end.ferrule)}</span>}
    </>
  );
}

/** The next core in type that is read from a ladder. */
function OneCore({ row, onDone }: { row: CoreRow | undefined; onDone: (core: string) => void }) {
  if (!row) return <p className="panel p-6 text-2xl font-bold">{WIRE_WORDS.everyRowIsDone}</p>;
  return (
    <section aria-label={WIRE_WORDS.nextCore} className="panel space-y-4 p-6">
      <p className="text-xl">
        {SIGNAL_WORDS[row.role] ?? row.role}: <b>{row.colour}</b>, {row.pair}
      </p>
      <div className="grid gap-6 sm:grid-cols-2">
        {[row.from, row.to].map(
          (end, at) =>
            end && (
              <div key={at}>
                <p className="quiet">{at === 0 ? WIRE_WORDS.from : WIRE_WORDS.to}</p>
                <p className="text-2xl">
                  {end.item}, {end.port}
                </p>
                <p className="reading text-5xl font-bold">
                  {end.terminal}
                  {end.pin !== undefined && <span className="text-2xl"> {WIRE_WORDS.pinOf(end.pin)}</span>}
                </p>
                {end.ferrule && <p className="text-lg">{WIRE_WORDS.ferrule(end.ferrule)}</p>}
              </div>
            ),
        )}
      </div>
      {row.notes.map((note) => (
        <p key={note} className="text-xl font-semibold text-warning">
          {note}
        </p>
      ))}
      <button type="button" className="btn btn-primary press h-16 w-full text-xl" onClick={() => onDone(row.id)}>
        {WIRE_WORDS.terminated}
      </button>
    </section>
  );
}

function coreName(row: CoreRow): string {
  return (
    `${row.from.item} ${row.from.terminal}${row.to ? WIRE_WORDS.to3(row.to.item, row.to.terminal) : ""}, ` +
    `${SIGNAL_WORDS[row.role] ?? row.role}`
  );
}
