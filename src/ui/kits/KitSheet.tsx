"use client";

import type { ReactNode } from "react";
import { patternWords } from "@/core/chain/lampPatterns";
import type { Kit } from "@/core/kits/kitSchema";
import { SET_UP_BY } from "@/core/kits/onlineKitSchema";
import { rungName } from "@/core/online/rungs";
import { wayName } from "@/core/online/ways";
import { kitSheet, sheetText } from "@/core/kits/kitSheet";
import { registerWords } from "@/core/kits/registerWords";
import { arrowWords } from "@/core/site/arrowWords";
import { Say } from "@/ui/parts/show/Say";
import { TerminalRow } from "@/ui/kits/TerminalRow";
import { KITS_WORDS } from "@/ui/words/kitsWords";

/** A kit as a data sheet: ratings, terminals as they are printed, CT inputs, bus and network, lamps, menu, times. */
export function KitSheet({ kit }: { kit: Kit }) {
  const wired = kit.ports.filter(({ terminals }) => terminals.length > 0);
  return (
    <>
      <div className="gap-x-8 lg:columns-2">
        {kitSheet(kit).map(({ title, fields }) => {
          const known = fields.filter(({ value }) => isSaid(value));
          if (known.length === 0) return null;
          return (
            <SheetPart key={title} title={title}>
              <dl className="grid grid-cols-[minmax(0,1fr)_auto] gap-x-4">
                {known.map(({ path, label, value, unit }) => (
                  <div key={path.join(".")} className="col-span-2 grid grid-cols-subgrid border-b border-base-300 py-1">
                    <dt>{label}</dt>
                    <dd className="reading max-w-80 text-right font-semibold">
                      <Say>{sheetText(value, unit)}</Say>
                    </dd>
                  </div>
                ))}
              </dl>
            </SheetPart>
          );
        })}
        <Registers kit={kit} />
        <CanFrames kit={kit} />
        <Lamps kit={kit} />
        <SetUpWays kit={kit} />
        <Menu kit={kit} />
        <Rules kit={kit} />
      </div>
      <CtInputs kit={kit} />
      {wired.length > 0 && (
        <SheetPart title={KITS_WORDS.terminalsInPrintedOrder}>
          <div className="space-y-3">
            {wired.map((port) => (
              <TerminalRow key={port.id} port={port} />
            ))}
          </div>
        </SheetPart>
      )}
    </>
  );
}

function isSaid(value: unknown): boolean {
  return value !== undefined && !(Array.isArray(value) && value.length === 0);
}

function SheetPart({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section aria-label={title} className="mb-5 min-w-0 break-inside-avoid">
      <h2 className="mb-1 border-b-2 border-base-content text-lg font-bold">{title}</h2>
      {children}
    </section>
  );
}

interface TableProps {
  readonly label: string;
  readonly heads: readonly string[];
  readonly rows: readonly (readonly ReactNode[])[];
}

/** A table, a card a row on a phone; the first cell of a row names it. */
function SheetTable({ label, heads, rows }: TableProps) {
  return (
    <div className="overflow-x-auto" role="region" aria-label={KITS_WORDS.table(label)} tabIndex={0}>
      <table className="stacked w-full text-left">
        <thead>
          <tr className="border-b border-base-300 text-sm">
            {heads.map((head) => (
              <th key={head} scope="col" className="py-1 pr-4">
                {head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map(([first, ...others], at) => (
            <tr key={at} className="border-b border-base-300 align-top">
              <th scope="row" className="py-1 pr-4">
                {first}
              </th>
              {others.map((cell, which) => (
                <td key={which} data-column={heads[which + 1]} className="py-1 pr-4">
                  <span>{cell}</span>
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

function CtInputs({ kit: { metering } }: { kit: Kit }) {
  if (!metering) return null;
  return (
    <SheetPart title={KITS_WORDS.ctInputs}>
      <SheetTable
        label={KITS_WORDS.ctInputs}
        heads={[
          KITS_WORDS.input,
          KITS_WORDS.printed,
          KITS_WORDS.ctArrow,
          KITS_WORDS.positiveIsFlow,
          KITS_WORDS.ctGives,
          KITS_WORDS.ratioTypedAs,
          KITS_WORDS.longestLead,
        ]}
        rows={metering.inputs.map(({ n, label, arrow, positive, secondary, ratio, longestLeadM }) => [
          n,
          label ?? "",
          arrowWords(arrow),
          arrowWords(positive),
          <Say key="secondary">{`${secondary.value} ${secondary.unit}`}</Say>,
          <Say key="ratio">{ratioText(ratio)}</Say>,
          <Say key="lead">{longestLeadM === undefined ? "" : `${longestLeadM} m`}</Say>,
        ])}
      />
      {metering.jumpers.length > 0 && (
        <ul className="mt-1 ml-5 list-disc">
          {metering.jumpers.map(({ when, link }) => (
            <li key={when}>{KITS_WORDS.link(when, link)}</li>
          ))}
        </ul>
      )}
    </SheetPart>
  );
}

function ratioText(ratio: NonNullable<Kit["metering"]>["inputs"][number]["ratio"]): string {
  switch (ratio.kind) {
    case "list":
      return KITS_WORDS.oneOfA(ratio.values.join(", "));
    case "primary":
      return KITS_WORDS.primaryToAInStepsOf(ratio.min, ratio.max, ratio.step);
    case "ratio":
      return KITS_WORDS.primarySecondaryToInStepsOf(ratio.min, ratio.max, ratio.step);
  }
}

function Registers({ kit: { registers } }: { kit: Kit }) {
  if (registers.length === 0) return null;
  return (
    <SheetPart title={KITS_WORDS.registers}>
      <SheetTable
        label={KITS_WORDS.registers}
        heads={[
          KITS_WORDS.value,
          KITS_WORDS.address,
          KITS_WORDS.tableTitle,
          KITS_WORDS.codedAs,
          KITS_WORDS.oneStep,
          KITS_WORDS.written,
        ]}
        rows={registers.map((register) => [
          registerWords(register),
          <span key="address" className="reading">
            {register.address}
          </span>,
          register.table,
          register.wordOrder === "low-first" ? KITS_WORDS.lowWordFirst(register.type) : register.type,
          <Say key="scale">{`${register.scale} ${register.unit}`}</Say>,
          register.access === "read" ? KITS_WORDS.no : KITS_WORDS.yes,
        ])}
      />
    </SheetPart>
  );
}

function CanFrames({ kit: { can } }: { kit: Kit }) {
  if (!can || can.frames.length === 0) return null;
  return (
    <SheetPart title={KITS_WORDS.canFramesThatItSends}>
      <SheetTable
        label={KITS_WORDS.canFrames}
        heads={[KITS_WORDS.frame, KITS_WORDS.identifier, KITS_WORDS.bytes, KITS_WORDS.aSecond]}
        rows={can.frames.map(({ name, id, extended, bytes, perSecond }) => [
          name,
          <span key="id" className="reading">
            {id
              .toString(16)
              .toUpperCase()
              .padStart(extended ? 8 : 3, "0")}
          </span>,
          bytes,
          <Say key="rate">{String(perSecond)}</Say>,
        ])}
      />
    </SheetPart>
  );
}

function Lamps({ kit: { lamps } }: { kit: Kit }) {
  if (lamps.length === 0) return null;
  return (
    <SheetPart title={KITS_WORDS.lamps}>
      <SheetTable
        label={KITS_WORDS.lamps}
        heads={[KITS_WORDS.lamp, KITS_WORDS.shows, KITS_WORDS.means, KITS_WORDS.whatToDo]}
        rows={lamps.map((own) => [
          own.lamp,
          patternWords(own),
          own.rung === undefined ? own.means : KITS_WORDS.wayOnline(own.means, rungName(own.rung).toLowerCase()),
          [own.next, own.waitMin === undefined ? undefined : KITS_WORDS.waitUpToMin(own.waitMin)]
            .filter(Boolean)
            .join("; "),
        ])}
      />
    </SheetPart>
  );
}

function SetUpWays({ kit: { online } }: { kit: Kit }) {
  if (!online) return null;
  return (
    <SheetPart title={KITS_WORDS.howItIsReached}>
      <SheetTable
        label={KITS_WORDS.howItIsReached}
        heads={[KITS_WORDS.by, KITS_WORDS.sets, KITS_WORDS.beginsAndEnds, KITS_WORDS.itsMenu]}
        rows={online.setUp.map(({ by, sets, start, startsForMin, stop, logIn, menu }) => [
          SET_UP_BY.find(({ id }) => id === by)!.name,
          sets.map((way) => wayName(way)).join(", "),
          [
            start,
            startsForMin === undefined ? undefined : KITS_WORDS.openForMin(startsForMin),
            stop === undefined ? undefined : KITS_WORDS.endedBy(stop),
            logIn === undefined ? undefined : KITS_WORDS.logIn(logIn),
          ]
            .filter(Boolean)
            .join("; "),
          menu.join(" › "),
        ])}
      />
      {online.warnings.map((warning) => (
        <p key={warning} className="caution mt-2">
          {warning}
        </p>
      ))}
    </SheetPart>
  );
}

function Menu({ kit: { menu, metering } }: { kit: Kit }) {
  const entries = [
    ...menu.map(({ field, sets, value, input }) => ({
      field,
      value: value ?? KITS_WORDS.set(sheetText(sets), input === undefined ? "" : KITS_WORDS.ofInput(input)),
    })),
    ...(metering?.menu ?? []),
  ];
  if (entries.length === 0) return null;
  return (
    <SheetPart title={KITS_WORDS.menuInItsOrder}>
      <SheetTable
        label={KITS_WORDS.menu}
        heads={[KITS_WORDS.entry, KITS_WORDS.value]}
        rows={entries.map(({ field, value }) => [
          <span key="field" className="reading">
            {field}
          </span>,
          value,
        ])}
      />
    </SheetPart>
  );
}

function Rules({ kit: { topology, powerUp } }: { kit: Kit }) {
  const rules = [
    ...powerUp.map(({ first, then, why }) => ({ what: KITS_WORDS.powerFirstThen(first, then), why })),
    ...topology.map(({ text, why }) => ({ what: text, why })),
  ];
  if (rules.length === 0) return null;
  return (
    <SheetPart title={KITS_WORDS.rulesOfItsMaker}>
      <ul className="ml-5 list-disc space-y-1">
        {rules.map(({ what, why }) => (
          <li key={what}>
            <b>{what}.</b> {why}.
          </li>
        ))}
      </ul>
    </SheetPart>
  );
}
