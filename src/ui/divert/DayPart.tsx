"use client";

import { useMemo } from "react";
import { DivertSettingsForm } from "@/ui/divert/DivertSettingsForm";
import { OrderTable } from "@/ui/divert/OrderTable";
import { useDiversion, type DivertDesk } from "@/ui/divert/useDivert";
import { Failure } from "@/ui/parts/show/Failure";
import type { DiversionResult, SurplusActor } from "@/core/simulation/diversionSchema";
import type { ChartLine } from "@/ui/parts/show/chartOptions";
import { LineChart } from "@/ui/parts/show/LineChart";
import { DIVERT_WORDS } from "@/ui/words/divertWords";

/**
 * A day's flows: where the sun goes, what the water and the battery make of it, and every order beside the one chosen.
 */
export function DayPart({ desk }: { desk: DivertDesk }) {
  const { result, failure } = useDiversion(desk.dayRequest);
  const series = result?.series;
  const flows = useMemo(() => series && dayFlows(series), [series]);
  return (
    <div className="mx-auto max-w-6xl space-y-4">
      <DivertSettingsForm desk={desk} />
      <Failure of={DIVERT_WORDS.thisDay} why={failure} />
      {!flows || !series ? (
        failure === undefined && <p role="status">{DIVERT_WORDS.simulating}</p>
      ) : (
        <>
          {!series.sunW.some((value) => value > 0) && (
            <p className="font-semibold">{DIVERT_WORDS.noSunInThisDayThePlanHasNoSolar}</p>
          )}
          <DayCharts flows={flows} hour={series.hour} order={desk.dayRequest.orders[0]!} />
          <OrderTable desk={desk} totals={result.totals} of={DIVERT_WORDS.thisDayLower} />
        </>
      )}
    </div>
  );
}

type DaySeries = NonNullable<DiversionResult["series"]>;

interface DayFlows {
  readonly uses: readonly ChartLine[];
  readonly sources: readonly ChartLine[];
  readonly states: readonly ChartLine[];
}

function DayCharts({
  flows,
  hour,
  order,
}: {
  flows: DayFlows;
  hour: readonly number[];
  order: readonly SurplusActor[];
}) {
  return (
    <>
      <section aria-label={DIVERT_WORDS.whereItGoes}>
        <h3 className="font-bold">
          {DIVERT_WORDS.whereThePowerGoesInThisOrder(order.join(", then ") || DIVERT_WORDS.houseThenGrid)}
        </h3>
        <LineChart
          label={DIVERT_WORDS.useOverTheDayStacked}
          at={hour}
          lines={flows.uses}
          unit="W"
          atUnit="h"
          heightPx={280}
          isStacked
        />
      </section>
      <section aria-label={DIVERT_WORDS.whereItComesFrom}>
        <h3 className="font-bold">{DIVERT_WORDS.whereItComesFrom}</h3>
        <LineChart
          label={DIVERT_WORDS.sourcesOverTheDay}
          at={hour}
          lines={flows.sources}
          unit="W"
          atUnit="h"
          heightPx={220}
        />
      </section>
      {flows.states.length > 0 && (
        <section aria-label={DIVERT_WORDS.tankAndBattery}>
          <h3 className="font-bold">{DIVERT_WORDS.tankAndBattery}</h3>
          <LineChart
            label={DIVERT_WORDS.tankTemperatureAndStateOfCharge}
            at={hour}
            lines={flows.states}
            unit=""
            atUnit="h"
            heightPx={200}
          />
        </section>
      )}
    </>
  );
}

/** What draws, what gives, and what is stored; lines that stay at nothing are left out. */
function dayFlows(series: DaySeries): DayFlows {
  const { sunW, houseW, batteryW, heaterW, vehicleW, gridW } = series;
  const positive = (values: readonly number[]) => values.map((value) => Math.max(0, value));
  return {
    uses: [
      { name: DIVERT_WORDS.house, values: houseW },
      { name: DIVERT_WORDS.batteryCharging, values: positive(batteryW) },
      { name: DIVERT_WORDS.heater, values: heaterW },
      { name: DIVERT_WORDS.vehicle, values: vehicleW },
      { name: DIVERT_WORDS.exporting, values: positive(gridW.map((value) => -value)) },
    ].filter(({ values }) => values.some((value) => value > 1)),
    sources: [
      { name: DIVERT_WORDS.sun, values: sunW, width: 3 },
      { name: DIVERT_WORDS.batteryDischarging, values: positive(batteryW.map((value) => -value)) },
      { name: DIVERT_WORDS.importing, values: positive(gridW) },
    ].filter(({ values }) => values.some((value) => value > 1)),
    states: [
      ...(series.tankC.some((value) => value > 0) ? [{ name: DIVERT_WORDS.tankC, values: series.tankC }] : []),
      ...(series.socPct.some((value) => value > 0) ? [{ name: DIVERT_WORDS.battery, values: series.socPct }] : []),
    ],
  };
}
