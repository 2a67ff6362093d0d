"use client";

import Papa from "papaparse";
import { useState } from "react";
import { registersOfCsv, type RegisterCsvOutcome } from "@/core/kits/registerCsv";
import type { Register } from "@/core/kits/registerSchema";
import { FileButton } from "@/ui/parts/form/FileButton";

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
        Registers from a CSV
      </FileButton>
      <p className="quiet text-sm">
        Columns: of, input, table, address, type, scale, unit; uint16, float, 0x1B58 and function codes are understood.
      </p>
      {outcome?.kind === "registers" && (
        <p role="status">{outcome.registers.length} registers stand in the text now; undo there takes them back.</p>
      )}
      {outcome?.kind === "bad" && (
        <div role="alert" className="text-sm font-semibold text-error">
          Nothing was taken over.
          <ul>
            {outcome.problems.slice(0, MOST_SHOWN).map(({ row, message }) => (
              <li key={`${row} ${message}`}>
                Row {row}: {message}
              </li>
            ))}
            {outcome.problems.length > MOST_SHOWN && <li>and {outcome.problems.length - MOST_SHOWN} more</li>}
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
