"use client";

import type * as Comlink from "comlink";
import { useMemo } from "react";
import { faultText } from "@/core/flows/cure";
import type { Fault } from "@/core/flows/faults";
import type { ExcludedFault, ProofPlan, ProofTable } from "@/core/flows/proof/proofPlan";
import type { KnownDevice } from "@/core/flows/testSheetSchema";
import { Say } from "@/ui/parts/show/Say";
import { Failure } from "@/ui/parts/show/Failure";
import { useWorkerAnswer } from "@/ui/parts/worker/useWorkerAnswer";
import type { ProveDesk } from "@/ui/prove/useProve";
import { diagnosisThread } from "@/ui/workspace/useDiagnosis";
import type { DiagnosisWorker } from "@/workers/diagnosis.worker";
import { PROVE_WORDS } from "@/ui/words/proveWords";

const MOST_LISTED = 12;
/** Expected evidence from which on a fault is told well, and beyond doubt, bits. */
const WELL_BITS = 7;
const SURE_BITS = 14;

interface Assumed {
  readonly site: ProveDesk["site"];
  readonly background: ProveDesk["background"];
  readonly noise: ProveDesk["sheet"]["noise"];
}
interface TableRequest {
  readonly request: Assumed;
  readonly steps: readonly (readonly KnownDevice[])[];
}

const askPlan = (worker: Comlink.Remote<DiagnosisWorker>, request: Assumed): Promise<ProofPlan> =>
  worker.proofPlan(request);
const askTable = (worker: Comlink.Remote<DiagnosisWorker>, request: TableRequest): Promise<ProofTable> =>
  worker.proofTable(request);

/** The shortest proof before the visit; and what the sheet as it is excludes, fault by fault. */
export function ProofPart({ prove }: { prove: ProveDesk }) {
  const { site, background, sheet } = prove;
  const request = useMemo(() => ({ site, background, noise: sheet.noise }), [site, background, sheet.noise]);
  const steps = useMemo(() => sheet.steps.map(({ devices }) => devices), [sheet.steps]);
  const plan = useWorkerAnswer<DiagnosisWorker, Assumed, ProofPlan>(
    diagnosisThread,
    site.meters.length > 0 ? request : undefined,
    askPlan,
  );
  const table = useWorkerAnswer<DiagnosisWorker, TableRequest, ProofTable>(
    diagnosisThread,
    useMemo(() => (steps.length > 0 ? { request, steps } : undefined), [request, steps]),
    askTable,
  );
  if (site.meters.length === 0) return null;
  return (
    <details className="panel p-3">
      <summary className="press flex cursor-pointer items-center font-bold">
        {PROVE_WORDS.theShortestProofAndWhatThisProof}
      </summary>
      <div className="mt-2 space-y-4">
        <Failure of={PROVE_WORDS.theProof} why={plan.failure ?? table.failure} />
        {plan.result ? (
          <Shortest plan={plan.result} table={steps.length > 0 ? table.result : undefined} prove={prove} />
        ) : (
          <p>{PROVE_WORDS.lookingForTheShortestProof}</p>
        )}
        {steps.length > 0 && table.result && <Excluded table={table.result} prove={prove} />}
      </div>
    </details>
  );
}

/** The steps that are still missing for the shortest proof, to be taken with one tap. */
function Shortest({ plan, table, prove }: { plan: ProofPlan; table: ProofTable | undefined; prove: ProveDesk }) {
  const has = (devices: readonly KnownDevice[]) => prove.sheet.steps.some((step) => isAlike(step.devices, devices));
  // Other steps may tell as much: then nothing is left to switch.
  const tellsAll = table !== undefined && table.singleFaults.told >= plan.singleFaults.told;
  const missing = tellsAll ? [] : plan.steps.filter(({ devices }) => !has(devices));
  const minutes = missing.reduce((sum, step) => sum + step.minutes, 0);
  return (
    <section aria-label={PROVE_WORDS.shortestProof} className="space-y-1">
      <h4 className="font-semibold">
        <Say>
          {missing.length === 0
            ? PROVE_WORDS.nothingMoreToSwitchThisSheetTells
            : PROVE_WORDS.shortestProofFromHereStepsAboutMin(missing.length, minutes)}
        </Say>
      </h4>
      <ol className="ml-5 list-decimal text-sm">
        {plan.steps.map(({ label, devices, minutes: own }) => (
          <li key={label}>
            <Say>{PROVE_WORDS.min(label, own)}</Say>
            {has(devices) && <b> {PROVE_WORDS.inTheSheet}</b>}
          </li>
        ))}
      </ol>
      <p className="text-sm">
        <Say>
          {PROVE_WORDS.itTellsOfSingleFaultsFromAPlan(plan.singleFaults.told, plan.singleFaults.of, plan.pairsToldPct)}
        </Say>
      </p>
      {missing.length > 0 && (
        <button type="button" className="btn press" onClick={() => prove.addPlanned(missing)}>
          {PROVE_WORDS.putTheseStepsIntoTheSheet}
        </button>
      )}
    </section>
  );
}

/** Whether the same devices run the same way. */
function isAlike(a: readonly KnownDevice[], b: readonly KnownDevice[]): boolean {
  const running = (own: readonly KnownDevice[]) =>
    own
      .filter(({ powerW }) => powerW !== 0)
      .map(({ node, powerW }) => `${node} ${Math.sign(powerW)}`)
      .sort()
      .join();
  return running(a) === running(b);
}

function Excluded({ table, prove: { site, sheet } }: { table: ProofTable; prove: ProveDesk }) {
  const told = table.excluded.filter(({ toldBy }) => toldBy !== null);
  const open = table.excluded.filter(({ toldBy }) => toldBy === null);
  return (
    <section aria-label={PROVE_WORDS.whatThisProofExcludes} className="space-y-2">
      <h4 className="font-semibold">
        <Say>
          {PROVE_WORDS.thisSheetTellsOfSingleFaults(table.singleFaults.told, table.singleFaults.of, table.pairsToldPct)}
        </Say>
      </h4>
      {open.length > 0 && (
        <p className="text-sm">
          <b>{PROVE_WORDS.notTold}</b>{" "}
          {open
            .slice(0, MOST_LISTED)
            .map(({ words }) => words)
            .join("; ")}
          {open.length > MOST_LISTED && PROVE_WORDS.andMore(open.length - MOST_LISTED)}.
        </p>
      )}
      <FaultTable told={told} labels={sheet.steps.map(({ label }) => label)} />
      {table.cannotTell.length > 0 && (
        <details>
          <summary className="press cursor-pointer text-sm font-semibold">
            {PROVE_WORDS.whatCannotBeToldHereAndWhatWould}
          </summary>
          <ul className="ml-5 list-disc text-sm">
            {table.cannotTell.slice(0, MOST_LISTED).map((own, at) => (
              <li key={at}>
                {PROVE_WORDS.from(
                  textOf(site, own.faults),
                  own.with.length === 0 ? PROVE_WORDS.aFittingAsPlanned : textOf(site, own.with),
                  own.why,
                )}
                <b>{PROVE_WORDS.itWouldNeed}</b> {own.wouldNeed}.
              </li>
            ))}
          </ul>
        </details>
      )}
    </section>
  );
}

function FaultTable({ told, labels }: { told: readonly ExcludedFault[]; labels: readonly string[] }) {
  return (
    <details>
      <summary className="press cursor-pointer text-sm font-semibold">{PROVE_WORDS.faultByFault}</summary>
      <div className="overflow-x-auto" role="region" aria-label={PROVE_WORDS.faultsThatAreTold} tabIndex={0}>
        <table className="w-full text-left text-sm">
          <thead>
            <tr className="border-b border-base-300">
              <th scope="col">{PROVE_WORDS.excluded}</th>
              <th scope="col">{PROVE_WORDS.byStep}</th>
              <th scope="col">{PROVE_WORDS.howSurely}</th>
            </tr>
          </thead>
          <tbody>
            {told.map(({ words, toldBy, bits }) => (
              <tr key={words} className="border-b border-base-300">
                <th scope="row" className="pr-2 font-normal">
                  {words}
                </th>
                <td className="pr-2">{labels[toldBy!]}</td>
                <td>{surely(bits)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </details>
  );
}

function surely(bits: number): string {
  return bits >= SURE_BITS ? PROVE_WORDS.beyondDoubt : bits >= WELL_BITS ? "well" : "just";
}

function textOf(site: ProveDesk["site"], faults: readonly Fault[]): string {
  return faults.map((fault) => faultText(site, fault)).join(" and ");
}
