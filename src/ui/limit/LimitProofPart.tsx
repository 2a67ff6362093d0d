"use client";

import { format, parseISO } from "date-fns";
import { Trash2 } from "lucide-react";
import Papa from "papaparse";
import { useMemo, useState } from "react";
import type { ExportLimiter } from "@/core/control/exportLimiter";
import { judgedProof, recordingOfRows, stepTestRecipe } from "@/core/control/stepTest";
import type { LimitProof } from "@/core/plan/limitSettings";
import { threeDigits } from "@/core/units";
import { LIMIT_VERDICTS } from "@/ui/limit/LimitSimulation";
import type { LimitDesk } from "@/ui/limit/useLimit";
import { LineChart } from "@/ui/parts/show/LineChart";
import { SelectField } from "@/ui/parts/form/SelectField";
import { useSay } from "@/ui/parts/browser/useNumberStyle";
import { usePerson } from "@/ui/parts/browser/usePerson";

const MOST_PROBLEMS = 8;
const PROOF_VERDICTS: Readonly<Record<LimitProof["verdict"], string>> = {
  ...LIMIT_VERDICTS,
  untested: "It proves nothing: the export never came near the limit",
};
const TYPED_EXAMPLE = "0 4200\n1 6100\n2 5600\n3 4900\n4 4850";

interface Table {
  readonly columns: readonly string[];
  readonly rows: readonly Readonly<Record<string, string>>[];
}

/**
 * The step test: how to do it here, its recording from a file or typed, judged by the code that judges the simulation,
 * and kept.
 */
export function LimitProofPart({ desk, limiter }: { desk: LimitDesk; limiter: ExportLimiter }) {
  const { document, limit } = desk;
  const recipe = stepTestRecipe(
    limit,
    limiter,
    document.site.nodes
      .filter(({ kind }) => kind === "test-load" || kind === "load")
      .filter(({ ratedW }) => ratedW !== undefined),
  );
  if (limit.powerW === undefined) return <p className="mx-auto max-w-6xl">Type the limit under Settings first.</p>;
  return (
    <div className="mx-auto max-w-6xl space-y-4">
      <section aria-label="Recipe" className="panel p-3">
        <h3 className="font-bold">Step test</h3>
        <ol className="ml-5 list-decimal space-y-1">
          {recipe.map((line) => (
            <li key={line}>{line}.</li>
          ))}
        </ol>
        <p className="caution mt-2">
          The site is live: covers on wherever nothing is measured; pull data plugs only. Local rules and the maker’s
          manual come first.
        </p>
      </section>
      <NewProof desk={desk} />
      <section aria-label="Proofs" className="space-y-3">
        <h3 className="font-bold">Proofs kept</h3>
        {limit.proofs.length === 0 && <p className="quiet">None yet.</p>}
        {limit.proofs.toReversed().map((proof) => (
          <ProofCard key={proof.id} desk={desk} proof={proof} />
        ))}
      </section>
    </div>
  );
}

function NewProof({ desk: { limit, set } }: { desk: LimitDesk }) {
  const { person } = usePerson();
  const [label, setLabel] = useState("Largest load off");
  const [table, setTable] = useState<Table | undefined>();
  const [typed, setTyped] = useState("");
  const [chosen, setChosen] = useState<
    { readonly time: string; readonly power: string; readonly isExportPositive: boolean } | undefined
  >();
  const shown = useMemo(
    (): Table =>
      table ?? {
        columns: ["seconds", "export"],
        rows: typed.split(/\n/).flatMap((line) => {
          const [seconds, watts, ...rest] = line.trim().split(/[\s;]+/);
          return line.trim() === ""
            ? []
            : [{ seconds: seconds ?? "", export: rest.length > 0 ? `${watts} ${rest.join(" ")}` : (watts ?? "") }];
        }),
      },
    [table, typed],
  );
  const remembered =
    limit.columns && shown.columns.includes(limit.columns.time) && shown.columns.includes(limit.columns.power)
      ? limit.columns
      : undefined;
  const columns = table
    ? (chosen ?? remembered ?? guessed(shown.columns))
    : { time: "seconds", power: "export", isExportPositive: true };
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
  const open = async (file: File | undefined) => {
    if (!file) return;
    const parsed = Papa.parse<Record<string, string>>(await file.text(), { header: true, skipEmptyLines: true });
    setTable({ columns: parsed.meta.fields ?? [], rows: parsed.data });
    setChosen(undefined);
  };
  const keep = () => {
    if (outcome?.kind !== "recording" || label.trim() === "") return;
    const proof = judgedProof(outcome.recording, limit, {
      id: crypto.randomUUID(),
      at: new Date().toISOString(),
      person,
      label: label.trim(),
    });
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
        <label className="btn press">
          Open a CSV
          <input
            type="file"
            accept=".csv,.txt,text/csv,text/plain"
            className="sr-only"
            onChange={(event) => {
              const input = event.currentTarget;
              void open(input.files?.[0]).finally(() => {
                input.value = "";
              });
            }}
          />
        </label>
        {table && (
          <button type="button" className="btn btn-ghost press" onClick={() => setTable(undefined)}>
            Type instead
          </button>
        )}
      </div>
      {table ? (
        <div className="flex flex-wrap gap-3">
          <div className="w-48">
            <SelectField
              label="Column of the time"
              value={columns.time}
              options={table.columns.map((name) => ({ value: name, label: name }))}
              onValue={(time) => setChosen({ ...columns, time })}
            />
          </div>
          <div className="w-48">
            <SelectField
              label="Column of the grid power"
              value={columns.power}
              options={table.columns.map((name) => ({ value: name, label: name }))}
              onValue={(power) => setChosen({ ...columns, power })}
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
              onValue={(sign) => setChosen({ ...columns, isExportPositive: sign === "export" })}
            />
          </div>
        </div>
      ) : (
        <label className="block text-sm">
          <span className="mb-0.5 block font-semibold">Or type it: seconds and export, a line each</span>
          <textarea
            className="field reading h-28"
            value={typed}
            placeholder={TYPED_EXAMPLE}
            onChange={(event) => setTyped(event.target.value)}
          />
        </label>
      )}
      {outcome?.kind === "bad" && (
        <div role="alert" className="text-error">
          <p className="font-semibold">Not read yet; nothing is lost:</p>
          {outcome.problems.slice(0, MOST_PROBLEMS).map((problem) => (
            <p key={problem} className="text-sm">
              {problem}
            </p>
          ))}
          {outcome.problems.length > MOST_PROBLEMS && (
            <p className="text-sm">and {outcome.problems.length - MOST_PROBLEMS} more</p>
          )}
        </div>
      )}
      {preview && <ProofNumbers proof={preview} />}
      <button type="button" className="btn btn-primary press" disabled={!preview || label.trim() === ""} onClick={keep}>
        Keep as proof
      </button>
    </section>
  );
}

function ProofCard({ desk: { limit, set }, proof }: { desk: LimitDesk; proof: LimitProof }) {
  return (
    <article className="panel p-3">
      <p className="flex flex-wrap items-center gap-x-3">
        <b>{proof.label}</b>
        <span className="quiet text-sm">
          {format(parseISO(proof.at), "d MMM yyyy HH:mm")}
          {proof.person ? `, ${proof.person}` : ""}
        </span>
        <button
          type="button"
          className="btn btn-ghost press ml-auto px-2"
          onClick={() => set({ proofs: limit.proofs.filter(({ id }) => id !== proof.id) })}
        >
          <Trash2 size={18} aria-hidden />
          <span className="sr-only">Remove {proof.label}</span>
        </button>
      </p>
      <ProofNumbers proof={proof} />
    </article>
  );
}

function ProofNumbers({ proof }: { proof: LimitProof }) {
  const say = useSay();
  const lines = useMemo(() => [{ name: "export", values: proof.exportW, width: 3 }], [proof.exportW]);
  return (
    <div>
      <p
        className={`text-lg font-bold ${proof.verdict === "holds" ? "text-success" : "text-error"}`}
        data-proof-verdict={proof.verdict}
      >
        {PROOF_VERDICTS[proof.verdict]}
      </p>
      <p className="text-sm">
        {say(
          `Largest ${threeDigits(proof.maxExportW)} W, above ${threeDigits(proof.limitW)} W for ` +
            `${threeDigits(proof.longestOverS)} s of ${proof.secondsAllowed} allowed, settled at ` +
            `${threeDigits(proof.settledExportW)} W.`,
        )}
      </p>
      <LineChart
        label="Export as recorded"
        at={proof.tS}
        lines={lines}
        unit="W"
        atUnit="s"
        heightPx={180}
        mark={{ value: proof.limitW, words: `limit ${proof.limitW} W` }}
      />
    </div>
  );
}

function guessed(columns: readonly string[]) {
  const time = columns.find((name) => /time|second|^t$/i.test(name)) ?? columns[0] ?? "";
  const power =
    columns.find((name) => name !== time && /export|grid|power|watt/i.test(name)) ??
    columns.find((name) => name !== time) ??
    "";
  return { time, power, isExportPositive: /export/i.test(power) };
}
