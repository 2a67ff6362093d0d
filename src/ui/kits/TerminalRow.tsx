"use client";

import type { Kit } from "@/core/kits/kitSchema";
import { Say } from "@/ui/parts/show/Say";
import { KITS_WORDS } from "@/ui/words/kitsWords";

type Port = Kit["ports"][number];
type Role = Port["terminals"][number]["role"];

const ROLE_WORDS: Readonly<Record<Role, string>> = {
  "non-inverting": KITS_WORDS.dataNonInverting,
  inverting: KITS_WORDS.dataInverting,
  "signal-ground": KITS_WORDS.signalGround,
  shield: KITS_WORDS.shield,
  "can-high": KITS_WORDS.canHigh,
  "can-low": KITS_WORDS.canLow,
  "dry-contact": KITS_WORDS.contact,
  "dry-contact-common": KITS_WORDS.contactCommon,
  line: KITS_WORDS.lineLower,
  neutral: KITS_WORDS.neutral,
  earth: KITS_WORDS.earth,
  "ct-k": KITS_WORDS.ctK,
  "ct-l": KITS_WORDS.ctL,
  "pair-1": "pair 1",
  "pair-2": "pair 2",
  "pair-3": "pair 3",
  "pair-4": "pair 4",
  "supply-plus": "supply +",
  "supply-minus": "supply −",
  enable: KITS_WORDS.enable,
  "enable-return": KITS_WORDS.enableReturn,
  unused: KITS_WORDS.notUsed,
};

const CONNECTOR_WORDS: Readonly<Record<Port["connector"], string>> = {
  terminal: KITS_WORDS.screwOrSpringTerminals,
  rj45: "RJ45 socket",
  "usb-a": KITS_WORDS.usbASocket,
  "usb-c": KITS_WORDS.usbCSocket,
  aerial: KITS_WORDS.aerial,
  none: KITS_WORDS.nothingToPlug,
};

/** The terminals of a port as they stand in a row on the device, each with its print, number and use. */
export function TerminalRow({ port: { label, connector, terminals, conductors } }: { port: Port }) {
  return (
    <div>
      <p className="text-sm">
        <b>{label}</b>, {CONNECTOR_WORDS[connector]}
        {conductors && (
          <>
            {KITS_WORDS.for} <Say>{KITS_WORDS.toMm2(conductors.minMm2, conductors.maxMm2)}</Say>
            {conductors.wiresMax > 1 && KITS_WORDS.wiresEach(conductors.wiresMax)}
            {conductors.ferrule ? KITS_WORDS.withFerrules : KITS_WORDS.withoutFerrules}
            {conductors.stripMm !== undefined && <Say>{KITS_WORDS.strippedMm(conductors.stripMm)}</Say>}
            {conductors.torqueNm !== undefined && <Say>{`, ${conductors.torqueNm} N·m`}</Say>}
          </>
        )}
      </p>
      <ol aria-label={KITS_WORDS.terminalsOf(label)} className="mt-1 flex flex-wrap gap-0.5">
        {terminals.map((terminal, at) => (
          <li
            key={`${terminal.label} ${at}`}
            className={
              "flex w-24 flex-col items-center rounded border-2 px-1 py-1 text-center " +
              (terminal.role === "unused" ? "border-dashed border-base-300" : "border-secondary bg-base-200")
            }
          >
            <span className="reading text-lg font-bold leading-tight">{terminal.label}</span>
            {terminal.pin !== undefined && <span className="reading text-sm">{terminal.pin}</span>}
            <span className="text-xs leading-tight">{ROLE_WORDS[terminal.role]}</span>
          </li>
        ))}
      </ol>
    </div>
  );
}
