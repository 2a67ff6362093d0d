"use client";

import Papa from "papaparse";
import { useMemo, useState } from "react";
import { judgedProof, recordingOfRows } from "@/core/control/stepTest";
import { ProofNumbers } from "@/ui/limit/ProofNumbers";
import type { LimitDesk } from "@/ui/limit/useLimit";
import { FileButton } from "@/ui/parts/form/FileButton";
import { SelectField } from "@/ui/parts/form/SelectField";
import { usePerson } from "@/ui/parts/browser/usePerson";

const MOST_PROBLEMS = 8;
const TYPED_EXAMPLE = "0 4200\n1 6100\n2 5600\n3 4900\n4 4850";
const TYPED_COLUMNS: Columns = { time: "seconds", power: "export", isExportPositive: true };

interface Table {
  readonly columns: readonly string[];
  readonly rows: readonly Readonly<Record<string, string>>[];
}

interface Columns {
  readonly time: string;
  readonly power: string;
  readonly isExportPositive: boolean;
}

/** A recording of a step test, from a file or typed, judged while it is typed; kept once it is read. */
export function NewProof({ desk: { limit, set } }: { desk: LimitDesk }) {
  const { person } = usePerson();
  const [label, setLabel] = useState("Largest load off");
  const [table, setTable] = useState<Table | undefined>();
  const [typed, setTyped] = useState("");
  const [chosen, setChosen] = useState<Columns | undefined>();
  const shown = useMemo(() => table ?? typedTable(typed), [table, typed]);
  const columns = table ? (chosen ?? rememberedColumns(limit.columns, table) ?? guessed(table.columns)) : TYPED_COLUMNS;
  const outcome = shown.rows.length === 0 ? undefined : recordingOfRows(shown.rows, columns);
  const preview =
    outcome?.kind === "recording"
      ? judgedProof(outcome.recording, limit, {
          id: "00000000-0000-4000-8000-000000000000",
          at: "2026-01-01T00:00:00.000Z",
          person,
          label: label || "Step test",
        })
      : undefined;
  const open = (read: Table) => {
    setTable(read);
    setChosen(undefined);
  };
  const keep = () => {
    if (!preview || label.trim() === "") return;
    const proof = { ...preview, id: crypto.randomUUID(), at: new Date().toISOString(), label: label.trim() };
    set({ proofs: [...limit.proofs, proof], ...(table ? { columns } : {}) });
    setTable(undefined);
    setTyped("");
  };
  return (
    <section aria-label="New recording" className="panel space-y-3 p-3">
      <h3 className="font-bold">What was recorded</h3>
      <div className="flex flex-wrap items-end gap-3">
        <label className="block min-w-52 flex-1 text-sm">
          <span className="mb-0.5 block font-semibold">What was switched</span>
          <input className="field" maxLength={120} value={label} onChange={(event) => setLabel(event.target.value)} />
        </label>
        <CsvButton onTable={open} />
        {table && (
          <button type="button" className="btn btn-ghost press" onClick={() => setTable(undefined)}>
            Type instead
          </button>
        )}
      </div>
      {table ? (
        <ColumnChoice names={table.columns} columns={columns} onColumns={setChosen} />
      ) : (
        <TypedRecording typed={typed} setTyped={setTyped} />
      )}
      {outcome?.kind === "bad" && <Unread problems={outcome.problems} />}
      {preview && <ProofNumbers proof={preview} />}
      <button type="button" className="btn btn-primary press" disabled={!preview || label.trim() === ""} onClick={keep}>
        Keep as proof
      </button>
    </section>
  );
}

function TypedRecording({ typed, setTyped }: { typed: string; setTyped: (next: string) => void }) {
  return (
    <label className="block text-sm">
      <span className="mb-0.5 block font-semibold">Or type it: seconds and export, a line each</span>
      <textarea
        className="field reading h-28 whitespace-pre-wrap"
        value={typed}
        placeholder={TYPED_EXAMPLE}
        onChange={(event) => setTyped(event.target.value)}
      />
    </label>
  );
}

function CsvButton({ onTable }: { readonly onTable: (table: Table) => void }) {
  const open = (text: string) => {
    const parsed = Papa.parse<Record<string, string>>(text, { header: true, skipEmptyLines: true });
    onTable({ columns: parsed.meta.fields ?? [], rows: parsed.data });
  };
  return (
    <FileButton accept=".csv,.txt,text/csv,text/plain" onText={open}>
      Open a CSV
    </FileButton>
  );
}

interface ColumnProps {
  readonly names: readonly string[];
  readonly columns: Columns;
  readonly onColumns: (columns: Columns) => void;
}

/** Which columns of the file are time and power, and what its sign means. */
function ColumnChoice({ names, columns, onColumns }: ColumnProps) {
  const options = names.map((name) => ({ value: name, label: name }));
  return (
    <div className="flex flex-wrap gap-3">
      <div className="w-48">
        <SelectField
          label="Column of the time"
          value={columns.time}
          options={options}
          onValue={(time) => onColumns({ ...columns, time })}
        />
      </div>
      <div className="w-48">
        <SelectField
          label="Column of the grid power"
          value={columns.power}
          options={options}
          onValue={(power) => onColumns({ ...columns, power })}
        />
      </div>
      <div className="w-48">
        <SelectField
          label="Positive means"
          value={columns.isExportPositive ? "export" : "import"}
          options={[
            { value: "export", label: "exporting" },
            { value: "import", label: "importing" },
          ]}
          onValue={(sign) => onColumns({ ...columns, isExportPositive: sign === "export" })}
        />
      </div>
    </div>
  );
}

function Unread({ problems }: { readonly problems: readonly string[] }) {
  return (
    <div role="alert" className="text-error">
      <p className="font-semibold">Not read yet; nothing is lost:</p>
      {problems.slice(0, MOST_PROBLEMS).map((problem) => (
        <p key={problem} className="text-sm">
          {problem}
        </p>
      ))}
      {problems.length > MOST_PROBLEMS && <p className="text-sm">and {problems.length - MOST_PROBLEMS} more</p>}
    </div>
  );
}

/** Lines of seconds and a power, which may have its unit after it. */
function typedTable(typed: string): Table {
  const rows = typed.split(/\n/).flatMap((line) => {
    const [seconds, watts, ...rest] = line.trim().split(/[\s;]+/);
    return line.trim() === ""
      ? []
      : [{ seconds: seconds ?? "", export: rest.length > 0 ? `${watts} ${rest.join(" ")}` : (watts ?? "") }];
  });
  return { columns: ["seconds", "export"], rows };
}

/** The columns of the last file, where this one has them too. */
function rememberedColumns(last: Columns | undefined, { columns }: Table): Columns | undefined {
  return last && columns.includes(last.time) && columns.includes(last.power) ? last : undefined;
}

function guessed(columns: readonly string[]): Columns {
  const time = columns.find((name) => /time|second|^t$/i.test(name)) ?? columns[0] ?? "";
  const power =
    columns.find((name) => name !== time && /export|grid|power|watt/i.test(name)) ??
    columns.find((name) => name !== time) ??
    "";
  return { time, power, isExportPositive: /export/i.test(power) };
}
