"use client";

import type { Kit } from "@/core/kits/kitSchema";
import { Say } from "@/ui/parts/show/Say";

type Port = Kit["ports"][number];
type Role = Port["terminals"][number]["role"];

const ROLE_WORDS: Readonly<Record<Role, string>> = {
  "non-inverting": "data, non-inverting (+)",
  inverting: "data, inverting (−)",
  "signal-ground": "signal ground",
  shield: "shield",
  "can-high": "CAN high",
  "can-low": "CAN low",
  "dry-contact": "contact",
  "dry-contact-common": "contact, common",
  line: "line",
  neutral: "neutral",
  earth: "earth",
  "ct-k": "CT, k (+)",
  "ct-l": "CT, l (−)",
  "pair-1": "pair 1",
  "pair-2": "pair 2",
  "pair-3": "pair 3",
  "pair-4": "pair 4",
  "supply-plus": "supply +",
  "supply-minus": "supply −",
  enable: "enable",
  "enable-return": "enable, return",
  unused: "not used",
};

const CONNECTOR_WORDS: Readonly<Record<Port["connector"], string>> = {
  terminal: "screw or spring terminals",
  rj45: "RJ45 socket",
  "usb-a": "USB-A socket",
  "usb-c": "USB-C socket",
  aerial: "aerial",
  none: "nothing to plug",
};

/** The terminals of a port as they stand in a row on the device, each with its print, number and use. */
export function TerminalRow({ port: { label, connector, terminals, conductors } }: { port: Port }) {
  return (
    <div>
      <p className="text-sm">
        <b>{label}</b>, {CONNECTOR_WORDS[connector]}
        {conductors && (
          <>
            {" "}
            for <Say>{`${conductors.minMm2} to ${conductors.maxMm2} mm²`}</Say>
            {conductors.wiresMax > 1 && `, ${conductors.wiresMax} wires each`}
            {conductors.ferrule ? ", with ferrules" : ", without ferrules"}
            {conductors.stripMm !== undefined && <Say>{`, stripped ${conductors.stripMm} mm`}</Say>}
            {conductors.torqueNm !== undefined && <Say>{`, ${conductors.torqueNm} N·m`}</Say>}
          </>
        )}
      </p>
      <ol aria-label={`Terminals of ${label}`} className="mt-1 flex flex-wrap gap-0.5">
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
