"use client";

import { Printer } from "lucide-react";
import { useEffect, useMemo, useRef, useState } from "react";
import { diversionOfPlan, orderText, sizeVariants } from "@/core/control/divertOfPlan";
import type { DiversionRequest, DiversionTotals } from "@/core/simulation/diversionSchema";
import { heaterChecks } from "@/core/control/heaterChecks";
import { fixedText, threeDigits } from "@/core/units";
import { OrderTable } from "@/ui/divert/OrderTable";
import { useSweep, type DivertDesk, type Sweep } from "@/ui/divert/useDivert";
import { Failure } from "@/ui/parts/show/Failure";
import { FindingLine } from "@/ui/parts/show/FindingLine";
import { LineChart } from "@/ui/parts/show/LineChart";
import { useSettled } from "@/ui/parts/show/useSettled";
import { useSay, useThreeDigits } from "@/ui/parts/browser/useNumberStyle";
import { useWhen } from "@/ui/parts/browser/useWhen";
import { DIVERT_WORDS } from "@/ui/words/divertWords";

const MONTHS = [
  DIVERT_WORDS.jan,
  DIVERT_WORDS.feb,
  DIVERT_WORDS.mar,
  DIVERT_WORDS.apr,
  DIVERT_WORDS.may,
  DIVERT_WORDS.jun,
  DIVERT_WORDS.jul,
  DIVERT_WORDS.aug,
  DIVERT_WORDS.sep,
  DIVERT_WORDS.oct,
  DIVERT_WORDS.nov,
  DIVERT_WORDS.dec,
] as const;
/** Somebody who types goes on within this. */
const VARIANT_COLUMNS = [DIVERT_WORDS.selfUseKWh, DIVERT_WORDS.importKWh, DIVERT_WORDS.hotWaterL, DIVERT_WORDS.bill];
const YEAR_AFTER_MS = 400;
const YEAR = { days: 365, stepMin: 1, series: false } as const;

/** A year at one minute, every order; and a sweep over battery sizes on all cores. */
export function YearPart({ desk }: { desk: DivertDesk }) {
  const { plan } = desk;
  const year = useSweep();
  const sweep = useSweep();
  const say = useSay();
  const request = diversionOfPlan(plan, YEAR);
  const rows = request.orders.flatMap((order) => year.rows.find((row) => row.order.join() === order.join()) ?? []);
  const meant = rows[0];
  const hygiene =
    meant && request.heater
      ? heaterChecks(plan, { weeksAt60: meant.weeksAt60, weeks: meant.weeks }).filter(({ code }) => code === "hygiene")
      : [];
  const variants = sizeVariants(request);
  const startYear = () =>
    year.start(
      request.orders.map((order) => ({ name: DIVERT_WORDS.yearLower, request: { ...request, orders: [order] } })),
    );
  useFreshYear(request, startYear);
  return (
    <div className="print-part mx-auto max-w-6xl space-y-4">
      <div className="flex flex-wrap items-center gap-3 print:hidden">
        <SweepControl words={DIVERT_WORDS.simulateTheYearOnceMore} sweep={year} onStart={startYear} isQuiet />
        {meant && !year.isRunning && (
          <button type="button" className="btn btn-sm press" onClick={() => window.print()}>
            <Printer size={18} aria-hidden />
            {DIVERT_WORDS.sheetForTheCustomer}
          </button>
        )}
      </div>
      {meant && <SheetHead desk={desk} chosen={meant} />}
      <Failure of={DIVERT_WORDS.theYear} why={year.failure ?? sweep.failure} />
      {meant && <Months totals={meant} />}
      {rows.length > 0 && <OrderTable desk={desk} totals={rows} of={DIVERT_WORDS.aYear} />}
      {hygiene.map((finding) => (
        <FindingLine key={finding.id} finding={finding} />
      ))}
      {meant && (
        <p className="text-sm">
          {say(
            DIVERT_WORDS.ofKWhOfSunKWhToTheHeaterKWhBack(
              threeDigits(meant.sunKwh),
              threeDigits(meant.heaterKwh),
              threeDigits(meant.batteryOutKwh),
              threeDigits(meant.batteryLossKwh),
              threeDigits(meant.vehicleKwh),
            ),
          )}
        </p>
      )}
      <div className="space-y-4 print:hidden">
        <SweepControl
          words={DIVERT_WORDS.sweepVariantsBatterySizesAndOrders(variants.length)}
          sweep={sweep}
          onStart={() => sweep.start(variants)}
        />
        {sweep.rows.length > 0 && <VariantTable sweep={sweep} />}
      </div>
    </div>
  );
}

/** On paper only: whose sheet it is, what was chosen, and what it rests on. */
function SheetHead({ desk: { document, divert }, chosen }: { desk: DivertDesk; chosen: DiversionTotals }) {
  const { job } = document;
  const when = useWhen();
  const [printedAt] = useState(() => new Date().toISOString());
  return (
    <header className="hidden print:!block">
      <h2 className="text-2xl font-bold">{DIVERT_WORDS.whereTheSurplusGoes(job.name)}</h2>
      <p>
        {job.place === "" ? "" : `${job.place}, `}
        {when(printedAt, "day")}
      </p>
      <p className="mt-2">
        {DIVERT_WORDS.surplusPowerGoesFirstTo} <b>{orderText(chosen.order)}</b>
        {DIVERT_WORDS.theFiguresAreASimulationOfAUsual(divert.house.kwhYear)}
      </p>
    </header>
  );
}

/** A year is worked out when it is looked at, and anew when what it is made of has rested after a change. */
function useFreshYear(request: DiversionRequest, start: () => void): void {
  const wanted = useSettled(JSON.stringify(request), YEAR_AFTER_MS);
  const latest = useRef(start);
  useEffect(() => {
    latest.current = start;
  });
  useEffect(() => latest.current(), [wanted]);
}

function VariantTable({ sweep }: { sweep: Sweep }) {
  const say = useSay();
  const three = useThreeDigits();
  return (
    <div className="overflow-x-auto" role="region" aria-label={DIVERT_WORDS.variants} tabIndex={0}>
      <table className="stacked w-full text-left text-sm">
        <thead>
          <tr className="border-b-2 border-base-300">
            <th scope="col">{DIVERT_WORDS.batteryTitle}</th>
            <th scope="col">{DIVERT_WORDS.surplusFirstTo}</th>
            {VARIANT_COLUMNS.map((name) => (
              <th key={name} scope="col" className="px-2 text-right">
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {sweep.rows
            .toSorted((a, b) => a.money - b.money)
            .map((row) => (
              <tr key={`${row.variant} ${row.order.join()}`} className="border-b border-base-300">
                <th scope="row" className="py-1">
                  {say(row.variant)}
                </th>
                <td>{orderText(row.order)}</td>
                {[row.selfUseKwh, row.importKwh, row.hotLitres].map((value, at) => (
                  <td key={at} data-column={VARIANT_COLUMNS[at]} className="reading px-2 text-right">
                    {three(value)}
                  </td>
                ))}
                <td data-column={VARIANT_COLUMNS.at(-1)} className="reading px-2 text-right">
                  {say(fixedText(row.money, 0))}
                </td>
              </tr>
            ))}
        </tbody>
      </table>
    </div>
  );
}

/** Where the sun of each month goes, and what the house and its devices run on. */
function Months({ totals: { byMonth } }: { totals: DiversionTotals }) {
  const [sun, use] = useMemo(
    () => [
      [
        { name: DIVERT_WORDS.usedHere, values: byMonth.map(({ sunKwh, exportKwh }) => sunKwh - exportKwh) },
        { name: DIVERT_WORDS.exportedLower, values: byMonth.map(({ exportKwh }) => exportKwh) },
      ],
      [
        { name: DIVERT_WORDS.fromTheSun, values: byMonth.map(({ sunKwh, exportKwh }) => sunKwh - exportKwh) },
        { name: DIVERT_WORDS.importedLower, values: byMonth.map(({ importKwh }) => importKwh) },
      ],
    ],
    [byMonth],
  );
  const at = useMemo(() => MONTHS.map((_, month) => month + 1), []);
  return (
    <div className="grid gap-4 lg:grid-cols-2">
      <section aria-label={DIVERT_WORDS.theSunByMonth}>
        <h3 className="font-bold">{DIVERT_WORDS.whereTheSunOfEachMonthGoes}</h3>
        <LineChart
          label={DIVERT_WORDS.sunByMonthStacked}
          at={at}
          names={MONTHS}
          lines={sun}
          unit="kWh"
          atUnit=""
          heightPx={240}
          isStacked
        />
      </section>
      <section aria-label={DIVERT_WORDS.useByMonth}>
        <h3 className="font-bold">{DIVERT_WORDS.whatItIsRunOn}</h3>
        <LineChart
          label={DIVERT_WORDS.useByMonthStacked}
          at={at}
          names={MONTHS}
          lines={use}
          unit="kWh"
          atUnit=""
          heightPx={240}
          isStacked
        />
      </section>
    </div>
  );
}

function SweepControl({
  words,
  sweep,
  onStart,
  isQuiet = false,
}: {
  words: string;
  /** Where it begins by itself, the button is only for once more. */
  isQuiet?: boolean;
  sweep: ReturnType<typeof useSweep>;
  onStart: () => void;
}) {
  return (
    <div className="flex flex-wrap items-center gap-3">
      {!(isQuiet && sweep.isRunning) && (
        <button
          type="button"
          className={`btn press ${isQuiet ? "btn-sm" : "btn-primary"}`}
          disabled={sweep.isRunning}
          onClick={onStart}
        >
          {words}
        </button>
      )}
      {sweep.isRunning && (
        <>
          <progress className="progress w-48" max={sweep.all} value={sweep.done} aria-label={DIVERT_WORDS.done} />
          <button type="button" className="btn press" onClick={sweep.cancel}>
            {DIVERT_WORDS.stop}
          </button>
        </>
      )}
      {sweep.all > 0 && (
        <span role="status" className="text-sm">
          {DIVERT_WORDS.of(
            sweep.done,
            sweep.all,
            sweep.isRunning ? "" : sweep.done < sweep.all ? DIVERT_WORDS.stopped : DIVERT_WORDS.doneToo,
          )}
        </span>
      )}
    </div>
  );
}
