"use client";

import Papa from "papaparse";
import { useMemo, useState } from "react";
import { judgedProof, recordingOfRows, type RecordingColumns } from "@/core/control/stepTest";
import type { Phase } from "@/core/phase";
import { phasesOfSupply } from "@/core/site/phasors";
import type { Supply } from "@/core/site/planSchema";
import { joined } from "@/core/words";
import { LiveRecorder } from "@/ui/limit/LiveRecorder";
import { ProofNumbers } from "@/ui/limit/ProofNumbers";
import type { RecordedTable } from "@/ui/limit/recordedTable";
import type { LimitDesk } from "@/ui/limit/useLimit";
import { ProblemLines } from "@/ui/parts/show/ProblemLines";
import { FileButton } from "@/ui/parts/form/FileButton";
import { SelectField } from "@/ui/parts/form/SelectField";
import { usePerson } from "@/ui/parts/browser/usePerson";
import { LIMIT_WORDS } from "@/ui/words/limitWords";

/** What is looked at before it is kept has no name yet. */
const NO_ID = "00000000-0000-4000-8000-000000000000";
const NO_TIME = "2026-01-01T00:00:00.000Z";
const UNITS = [
  { value: "", label: LIMIT_WORDS.asTheFileSays },
  { value: "W", label: "W" },
  { value: "kW", label: LIMIT_WORDS.kW },
];
const TYPED_EXAMPLE = "0 4200\n1 6100\n2 5600\n3 4900\n4 4850";
const TYPED_PHASES = "0 1400 1390 1410\n1 2300 1400 1390\n2 1850 1400 1400";

/** A recording of a step test, from a file or typed, judged while it is typed; kept once it is read. */
export function NewProof({ desk: { limit, set, document, limiter } }: { desk: LimitDesk }) {
  const [label, setLabel] = useState(LIMIT_WORDS.largestLoadOff);
  const [table, setTable] = useState<RecordedTable | undefined>();
  const [typed, setTyped] = useState("");
  const [chosen, setChosen] = useState<RecordingColumns | undefined>();
  const { phases, columns, outcome, preview } = useJudged({
    limit,
    supply: document.site.supply,
    table,
    typed,
    chosen,
    label,
  });
  const open = (read: RecordedTable) => {
    setTable(read);
    setChosen(undefined);
  };
  const keep = () => {
    if (!preview || label.trim() === "") return;
    const kept = { ...preview, id: crypto.randomUUID(), at: new Date().toISOString(), label: label.trim() };
    const proof = table?.isOnBench ? { ...kept, onBench: true } : kept;
    set({ proofs: [...limit.proofs, proof], ...(table ? { columns } : {}) });
    setTable(undefined);
    setTyped("");
  };
  return (
    <section aria-label={LIMIT_WORDS.newRecording} className="panel space-y-3 p-3">
      <h3 className="font-bold">{LIMIT_WORDS.whatWasRecorded}</h3>
      <div className="flex flex-wrap items-end gap-3">
        <label className="block min-w-52 flex-1 text-sm">
          <span className="mb-0.5 block font-semibold">{LIMIT_WORDS.whatWasSwitched}</span>
          <input className="field" maxLength={120} value={label} onChange={(event) => setLabel(event.target.value)} />
        </label>
        <CsvButton onTable={open} />
        {limiter && <LiveRecorder meter={limiter.meter} onTable={open} />}
        {table && (
          <button type="button" className="btn btn-ghost press" onClick={() => setTable(undefined)}>
            {LIMIT_WORDS.typeInstead}
          </button>
        )}
      </div>
      {table ? (
        <ColumnChoice names={table.columns} phases={phases} columns={columns} onColumns={setChosen} />
      ) : (
        <TypedRecording typed={typed} setTyped={setTyped} phases={phases} />
      )}
      {outcome?.kind === "bad" && <ProblemLines problems={outcome.problems} />}
      {preview && <ProofNumbers proof={preview} />}
      <button type="button" className="btn btn-primary press" disabled={!preview || label.trim() === ""} onClick={keep}>
        {LIMIT_WORDS.keepAsProof}
      </button>
    </section>
  );
}

/** What was typed or opened, read and judged. */
function useJudged({
  limit,
  supply,
  table,
  typed,
  chosen,
  label,
}: {
  limit: LimitDesk["limit"];
  supply: Supply;
  table: RecordedTable | undefined;
  typed: string;
  chosen: RecordingColumns | undefined;
  label: string;
}) {
  const { person } = usePerson();
  const ofPhases = phasesOfSupply(supply);
  const phases = useMemo(() => (limit.basis === "per-phase" ? phasesOfSupply(supply) : []), [limit.basis, supply]);
  const shown = useMemo(() => table ?? typedTable(typed, phases), [table, typed, phases]);
  const columns = table
    ? inOwnUnit(table, chosen ?? rememberedColumns(limit.columns, table) ?? guessed(table.columns, phases))
    : typedColumns(phases, shown.columns);
  const outcome = shown.rows.length === 0 ? undefined : recordingOfRows(shown.rows, columns);
  const about = { id: NO_ID, at: NO_TIME, person, label: label || LIMIT_WORDS.stepTest };
  const preview = outcome?.kind === "recording" ? judgedProof(outcome.recording, limit, about, ofPhases) : undefined;
  return { phases, columns, outcome, preview };
}

function TypedRecording({
  typed,
  setTyped,
  phases,
}: {
  typed: string;
  setTyped: (next: string) => void;
  phases: readonly Phase[];
}) {
  const isOnEach = phases.length > 1;
  return (
    <label className="block text-sm">
      <span className="mb-0.5 block font-semibold">
        {LIMIT_WORDS.orTypeItSecondsAndExportInWALine(isOnEach ? LIMIT_WORDS.of(joined(phases)) : "")}
      </span>
      <textarea
        className="field reading h-28 whitespace-pre-wrap"
        value={typed}
        placeholder={isOnEach ? TYPED_PHASES : TYPED_EXAMPLE}
        onChange={(event) => setTyped(event.target.value)}
      />
    </label>
  );
}

function CsvButton({ onTable }: { readonly onTable: (table: RecordedTable) => void }) {
  const open = (text: string) => {
    const parsed = Papa.parse<Record<string, string>>(text, { header: true, skipEmptyLines: true });
    onTable({ columns: parsed.meta.fields ?? [], rows: parsed.data });
  };
  return (
    <FileButton accept=".csv,.txt,text/csv,text/plain" onText={open}>
      {LIMIT_WORDS.openACsv}
    </FileButton>
  );
}

interface ColumnProps {
  readonly names: readonly string[];
  /** Of a limit on each phase. */
  readonly phases: readonly Phase[];
  readonly columns: RecordingColumns;
  readonly onColumns: (columns: RecordingColumns) => void;
}

/** Which columns of the file are time and power, and what its sign means. */
function ColumnChoice({ names, phases, columns, onColumns }: ColumnProps) {
  const options = names.map((name) => ({ value: name, label: name }));
  return (
    <div className="flex flex-wrap gap-3">
      <div className="w-48">
        <SelectField
          label={LIMIT_WORDS.columnOfTheTime}
          value={columns.time}
          options={options}
          onValue={(time) => onColumns({ ...columns, time })}
        />
      </div>
      {phases.length === 0 && (
        <div className="w-48">
          <SelectField
            label={LIMIT_WORDS.columnOfTheGridPower}
            value={columns.power}
            options={options}
            onValue={(power) => onColumns({ ...columns, power })}
          />
        </div>
      )}
      {phases.map((phase) => (
        <div key={phase} className="w-48">
          <SelectField
            label={LIMIT_WORDS.columnOf(phase)}
            value={columns.phases?.[phase] ?? ""}
            options={[{ value: "", label: LIMIT_WORDS.notRecorded }, ...options]}
            onValue={(name) => onColumns({ ...columns, phases: { ...columns.phases, [phase]: name || undefined } })}
          />
        </div>
      ))}
      <div className="w-48">
        <SelectField
          label={LIMIT_WORDS.unitOfThePowers}
          value={columns.unit ?? ""}
          options={UNITS}
          onValue={(unit) => onColumns({ ...columns, unit: unit === "W" || unit === "kW" ? unit : undefined })}
        />
      </div>
      <div className="w-48">
        <SelectField
          label={LIMIT_WORDS.positiveMeans}
          value={columns.isExportPositive ? "export" : "import"}
          options={[
            { value: "export", label: LIMIT_WORDS.exporting },
            { value: "import", label: LIMIT_WORDS.importing },
          ]}
          onValue={(sign) => onColumns({ ...columns, isExportPositive: sign === "export" })}
        />
      </div>
    </div>
  );
}

/** Lines of seconds and a power, or one for each phase; each may have its unit after it. */
function typedTable(typed: string, phases: readonly Phase[]): RecordedTable {
  const names = phases.length > 1 ? phases : ["export"];
  const rows = typed.split(/\n/).flatMap((line) => {
    const [seconds = "", ...rest] = line.trim().split(/[\s;]+/);
    // A unit belongs to the number before it.
    const powers = rest
      .join(" ")
      .replace(/\s+(?=k?w\b)/gi, "\u00a0")
      .split(" ");
    return line.trim() === ""
      ? []
      : [Object.fromEntries([["seconds", seconds], ...names.map((name, at) => [name, powers[at] ?? ""])])];
  });
  // A phase that stands in no line was not written down.
  const written = names.filter((name) => name === names[0] || rows.some((row) => row[name] !== ""));
  return { columns: ["seconds", ...written], rows };
}

function typedColumns(phases: readonly Phase[], written: readonly string[]): RecordingColumns {
  const own = phases.filter((phase) => written.includes(phase));
  return {
    time: "seconds",
    power: "export",
    isExportPositive: true,
    unit: "W",
    ...(own.length > 0 ? { phases: Object.fromEntries(own.map((phase) => [phase, phase])) } : {}),
  };
}

/** The columns of the last file, where this one has them too. */
function rememberedColumns(
  last: RecordingColumns | undefined,
  { columns }: RecordedTable,
): RecordingColumns | undefined {
  const named = last && [last.time, ...(last.phases ? Object.values(last.phases) : [last.power])];
  return named?.every((name) => columns.includes(name)) ? last : undefined;
}

/** What was read live is in its own unit, whatever the last file was in. */
function inOwnUnit({ unit }: RecordedTable, columns: RecordingColumns): RecordingColumns {
  return unit === undefined ? columns : { ...columns, unit };
}

function guessed(columns: readonly string[], phases: readonly Phase[]): RecordingColumns {
  const time = columns.find((name) => /time|second|^t$/i.test(name)) ?? columns[0] ?? "";
  const power =
    columns.find((name) => name !== time && /export|grid|power|watt/i.test(name)) ??
    columns.find((name) => name !== time) ??
    "";
  const byPhase = phases.flatMap((phase) => {
    const name = columns.find((own) => own !== time && own.toUpperCase().includes(phase));
    return name ? [[phase, name] as const] : [];
  });
  const isExportPositive = [power, ...byPhase.map(([, name]) => name)].some((name) => /export/i.test(name));
  return {
    time,
    power,
    isExportPositive,
    ...(phases.length > 0 ? { phases: Object.fromEntries(byPhase) } : {}),
  };
}
