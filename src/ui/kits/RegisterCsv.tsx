"use client";

import Papa from "papaparse";
import { useState } from "react";
import { registersOfCsv, type RegisterCsvOutcome } from "@/core/kits/registerCsv";
import type { Register } from "@/core/kits/registerSchema";
import { FileButton } from "@/ui/parts/form/FileButton";
import { KITS_WORDS } from "@/ui/words/kitsWords";

const MOST_SHOWN = 8;

/** A register list from a maker's manual, as a CSV: it takes the place of the kit's list. */
export function RegisterCsv({ onRegisters }: { readonly onRegisters: (registers: readonly Register[]) => void }) {
  const [outcome, setOutcome] = useState<RegisterCsvOutcome | undefined>();
  const open = (text: string) => {
    const { data } = Papa.parse<Record<string, string>>(text, { header: true, skipEmptyLines: true });
    const read = registersOfCsv(data.map(textsOnly));
    setOutcome(read);
    if (read.kind === "registers") onRegisters(read.registers);
  };
  return (
    <div className="space-y-2">
      <FileButton accept=".csv,.txt,text/csv,text/plain" onText={open}>
        {KITS_WORDS.registersFromACsv}
      </FileButton>
      <p className="quiet text-sm">{KITS_WORDS.columnsOfInputTableAddressType}</p>
      {outcome?.kind === "registers" && (
        <p role="status">{KITS_WORDS.registersStandInTheTextNowUndo(outcome.registers.length)}</p>
      )}
      {outcome?.kind === "bad" && (
        <div role="alert" className="text-sm font-semibold text-error">
          {KITS_WORDS.nothingWasTakenOver}
          <ul>
            {outcome.problems.slice(0, MOST_SHOWN).map(({ row, message }) => (
              <li key={`${row} ${message}`}>{KITS_WORDS.row(row, message)}</li>
            ))}
            {outcome.problems.length > MOST_SHOWN && (
              <li>{KITS_WORDS.andMore(outcome.problems.length - MOST_SHOWN)}</li>
            )}
          </ul>
        </div>
      )}
    </div>
  );
}

/** A row may have more cells than there are heads; those have no name. */
function textsOnly(row: Readonly<Record<string, unknown>>): Record<string, string> {
  return Object.fromEntries(
    Object.entries(row).flatMap(([head, cell]) => (typeof cell === "string" ? [[head, cell] as const] : [])),
  );
}
