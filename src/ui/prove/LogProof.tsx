"use client";

import type * as Comlink from "comlink";
import Papa from "papaparse";
import { useMemo, useState } from "react";
import { saidCure, saidFaults } from "@/core/flows/cure";
import { fittingWith } from "@/core/flows/diagnose";
import { siteWithFitting } from "@/core/flows/fitting";
import type { LogDiagnosis } from "@/core/flows/log/diagnoseLog";
import { logOfRows, type LogMapping } from "@/core/flows/log/logOfRows";
import { percent } from "@/core/job/proveFindings";
import { BoardSketch } from "@/ui/board/BoardSketch";
import { FileButton } from "@/ui/parts/form/FileButton";
import { Failure } from "@/ui/parts/show/Failure";
import { ProblemLines } from "@/ui/parts/show/ProblemLines";
import { useSaid, useSay } from "@/ui/parts/browser/useNumberStyle";
import { useWorkerAnswer } from "@/ui/parts/worker/useWorkerAnswer";
import { faultTags } from "@/ui/prove/faultTags";
import { hourText, LogBands } from "@/ui/prove/LogBands";
import { LogColumns } from "@/ui/prove/LogColumns";
import { guessedMapping, rememberMapping, rememberedMapping, seriesIds } from "@/ui/prove/logMapping";
import type { ProveDesk } from "@/ui/prove/useProve";
import { diagnosisThread } from "@/ui/workspace/useDiagnosis";
import { useJob } from "@/ui/workspace/workspaceContext";
import type { DiagnosisWorker, ProvenLog } from "@/workers/diagnosis.worker";
import { PROVE_WORDS } from "@/ui/words/proveWords";

const VERDICTS: Readonly<Record<LogDiagnosis["verdict"], string>> = {
  "as-planned": PROVE_WORDS.asPlannedByThisLog,
  "faults-found": PROVE_WORDS.aFaultIsFound,
  ambiguous: PROVE_WORDS.notCertainYet,
  "not-explained": PROVE_WORDS.theLogIsNotWhatThisSiteDoes,
  "reading-doubtful": PROVE_WORDS.readItAgain,
};

interface Table {
  readonly columns: readonly string[];
  readonly rows: readonly Readonly<Record<string, string>>[];
}

const askLog = (worker: Comlink.Remote<DiagnosisWorker>, request: object): Promise<ProvenLog> => worker.log(request);

/** Proof from a log: hours that a portal or meter recorded, its columns mapped once, weighed without any switching. */
export function LogProof({ prove }: { prove: ProveDesk }) {
  const { site, background, sheet } = prove;
  const [table, setTable] = useState<Table | undefined>();
  const [chosen, setChosen] = useState<LogMapping | undefined>();
  const ids = useMemo(() => seriesIds(site), [site]);
  const mapping =
    table && (chosen ?? rememberedMapping(ids, table.columns) ?? guessedMapping(site, ids, table.columns));
  const outcome = useMemo(() => (table && mapping ? logOfRows(table.rows, mapping) : undefined), [table, mapping]);
  const request = useMemo(
    () => (outcome?.kind === "log" ? requestOf(ids, outcome, { site, background, noise: sheet.noise }) : undefined),
    [outcome, ids, site, background, sheet.noise],
  );
  const answer = useWorkerAnswer<DiagnosisWorker, object, ProvenLog>(diagnosisThread, request, askLog);
  const choose = (next: LogMapping) => {
    setChosen(next);
    rememberMapping(next);
  };
  if (site.meters.length === 0) return null;
  return (
    <details className="panel p-3">
      <summary className="press flex cursor-pointer items-center font-bold">
        {PROVE_WORDS.proofFromALogHoursOfReadings}
      </summary>
      <div className="mt-2 space-y-3">
        <p className="text-sm">{PROVE_WORDS.aCsvOfAPortalAMeterOrALoggerOfADay}</p>
        <FileButton
          accept=".csv,.txt,text/csv,text/plain"
          onText={(text) => {
            const parsed = Papa.parse<Record<string, string>>(text, { header: true, skipEmptyLines: true });
            setTable({ columns: parsed.meta.fields ?? [], rows: parsed.data });
            setChosen(undefined);
          }}
        >
          {PROVE_WORDS.openACsv}
        </FileButton>
        {outcome?.kind === "bad" && <ProblemLines problems={outcome.problems} />}
        {outcome?.kind === "log" && !request && <p>{PROVE_WORDS.sayWhichColumnIsWhichInput}</p>}
        <Failure of={PROVE_WORDS.thisLog} why={answer.failure} />
        {request && !answer.result && answer.failure === undefined && <p>{PROVE_WORDS.weighing}</p>}
        {request && outcome?.kind === "log" && answer.result && (
          <LogVerdict prove={prove} log={answer.result} outcome={outcome} isBusy={answer.isBusy} />
        )}
        {table && mapping && <LogColumns columns={table.columns} mapping={mapping} ids={ids} onMapping={choose} />}
      </div>
    </details>
  );
}

/** What the worker is asked; undefined while no input has a column. */
function requestOf(
  ids: ReturnType<typeof seriesIds>,
  { times, series }: Extract<ReturnType<typeof logOfRows>, { kind: "log" }>,
  assumed: { readonly site: ProveDesk["site"]; readonly background: ProveDesk["background"]; readonly noise: object },
): object | undefined {
  const readings = ids.inputs.flatMap(({ id, meter, input }) => {
    const powerW = series.get(id);
    return powerW ? [{ meter, input, powerW }] : [];
  });
  const known = ids.devices.flatMap(({ id, node }) => {
    const powerW = series.get(id);
    return powerW ? [{ node, powerW }] : [];
  });
  return readings.length === 0 ? undefined : { ...assumed, times, readings, known };
}

function LogVerdict({
  prove: { site },
  log: { diagnosis, bands },
  outcome,
  isBusy,
}: {
  prove: ProveDesk;
  log: ProvenLog;
  outcome: Extract<ReturnType<typeof logOfRows>, { kind: "log" }>;
  isBusy: boolean;
}) {
  const said = useSaid();
  const say = useSay();
  const scheme = useJob().document.job.colourScheme;
  const [best] = diagnosis.hypotheses;
  const hours = diagnosis.hours.map(({ fromS }) => hourText(fromS));
  if (!best) return null;
  return (
    <div role="status" aria-label={PROVE_WORDS.whatTheLogSays} aria-busy={isBusy} className="space-y-2">
      <p className="text-lg font-bold">
        {VERDICTS[diagnosis.verdict]}: {said(saidFaults(site, best.faults))}{" "}
        <span className="reading font-normal">{percent(best.probability)}</span>
      </p>
      {best.faults.map((fault, which) => (
        <p key={which} className="font-semibold">
          {said(saidCure(site, fault))}.
        </p>
      ))}
      <p className="text-sm">
        {say(PROVE_WORDS.ofRowsUsed(diagnosis.rowsUsed, outcome.times.length))}
        {hours.length > 0 && PROVE_WORDS.toldMostByTheHourFrom(hours.join(", "))}
        {diagnosis.lags
          .map(({ meter, seconds }) => say(PROVE_WORDS.comesSLateTakenOut(meterName(site, meter), seconds)))
          .join("")}
        {diagnosis.nextTests[0] && PROVE_WORDS.whatWouldTellMore(diagnosis.nextTests[0].label)}
      </p>
      <LogBands site={site} bands={bands} />
      {best.faults.length > 0 && (
        <BoardSketch
          site={siteWithFitting(site, fittingWith(site, best.faults))}
          scheme={scheme}
          marked={faultTags(site, best.faults)}
          label={PROVE_WORDS.fittedAs(said(saidFaults(site, best.faults)))}
        />
      )}
    </div>
  );
}

function meterName(site: ProveDesk["site"], id: string): string {
  return site.meters.find((meter) => meter.id === id)?.name ?? id;
}
