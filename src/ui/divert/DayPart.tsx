"use client";

import { useMemo } from "react";
import { DivertSettingsForm } from "@/ui/divert/DivertSettingsForm";
import { OrderTable } from "@/ui/divert/OrderTable";
import { useDiversion, type DivertDesk } from "@/ui/divert/useDivert";
import { Failure } from "@/ui/parts/show/Failure";
import type { DiversionResult, SurplusActor } from "@/core/simulation/diversionSchema";
import type { ChartLine } from "@/ui/parts/show/chartOptions";
import { LineChart } from "@/ui/parts/show/LineChart";

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
      <Failure of="This day" why={failure} />
      {!flows || !series ? (
        failure === undefined && <p role="status">Simulating …</p>
      ) : (
        <>
          {!series.sunW.some((value) => value > 0) && (
            <p className="font-semibold">
              No sun in this day: the plan has no solar inverter yet. Add one under Plan, or fields above.
            </p>
          )}
          <DayCharts flows={flows} hour={series.hour} order={desk.dayRequest.orders[0]!} />
          <OrderTable desk={desk} totals={result.totals} of="this day" />
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
      <section aria-label="Where it goes">
        <h3 className="font-bold">
          Where the power goes, in this order: {order.join(", then ") || "house, then grid"}
        </h3>
        <LineChart
          label="Use over the day, stacked"
          at={hour}
          lines={flows.uses}
          unit="W"
          atUnit="h"
          heightPx={280}
          isStacked
        />
      </section>
      <section aria-label="Where it comes from">
        <h3 className="font-bold">Where it comes from</h3>
        <LineChart label="Sources over the day" at={hour} lines={flows.sources} unit="W" atUnit="h" heightPx={220} />
      </section>
      {flows.states.length > 0 && (
        <section aria-label="Tank and battery">
          <h3 className="font-bold">Tank and battery</h3>
          <LineChart
            label="Tank temperature and state of charge"
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
      { name: "house", values: houseW },
      { name: "battery charging", values: positive(batteryW) },
      { name: "heater", values: heaterW },
      { name: "vehicle", values: vehicleW },
      { name: "exporting", values: positive(gridW.map((value) => -value)) },
    ].filter(({ values }) => values.some((value) => value > 1)),
    sources: [
      { name: "sun", values: sunW, width: 3 },
      { name: "battery discharging", values: positive(batteryW.map((value) => -value)) },
      { name: "importing", values: positive(gridW) },
    ].filter(({ values }) => values.some((value) => value > 1)),
    states: [
      ...(series.tankC.some((value) => value > 0) ? [{ name: "tank, °C", values: series.tankC }] : []),
      ...(series.socPct.some((value) => value > 0) ? [{ name: "battery, %", values: series.socPct }] : []),
    ],
  };
}
