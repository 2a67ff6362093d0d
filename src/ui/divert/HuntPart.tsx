"use client";

import { useMemo } from "react";
import type { DiversionRequest } from "@/core/simulation/diversionSchema";
import { settingsApart, simulateHunt, type Integrator, type HuntTrace, type Apart } from "@/core/simulation/hunting";
import type { DivertDesk } from "@/ui/divert/useDivert";
import { LineChart } from "@/ui/parts/show/LineChart";
import { NumberField } from "@/ui/parts/form/NumberField";
import { useSay } from "@/ui/parts/browser/useNumberStyle";

const SURPLUS_W = 1500;
const PERIOD_S = 1;
const DELAY_S = 0.8;

/**
 * Two controllers that act on one grid CT, second by second: whether they hunt or feed each other, and what keeps them
 * apart.
 */
export function HuntPart({ desk }: { desk: DivertDesk }) {
  const { battery, heater } = desk.dayRequest;
  const say = useSay();
  const { trace, apart } = useHunt(desk);
  const lines = useMemo(
    () =>
      trace
        ? [
            { name: "grid, + importing", values: trace.gridW, width: 3.5 },
            { name: "battery, + charging", values: trace.aW },
            { name: "heater", values: trace.bW },
          ]
        : [],
    [trace],
  );
  if (!trace || !battery || !heater)
    return <p className="mx-auto max-w-6xl">This plan has no battery and diverter that could meet on one grid CT.</p>;
  const verdict = trace.isHunting
    ? "They hunt"
    : trace.exchangedW > 100
      ? "The battery feeds the heater"
      : "They stay apart";
  return (
    <div className="mx-auto max-w-6xl space-y-4">
      <HuntFields battery={battery} desk={desk} heater={heater} />
      <HuntVerdict verdict={verdict} trace={trace} apart={apart} desk={desk} heater={heater} />
      <LineChart
        label={`Grid, battery and heater after ${SURPLUS_W} W of surplus: ${verdict}`}
        at={trace.tS}
        lines={lines}
        unit="W"
        atUnit="s"
        heightPx={320}
      />
      <p className="quiet text-sm">
        Both act once a second on a grid reading that is {say(String(DELAY_S))} s old; {SURPLUS_W} W of surplus come at
        60 s.
      </p>
    </div>
  );
}

/** How battery and heater meet on one grid CT after a surplus; nothing where the plan has not both. */
function useHunt({ divert, dayRequest: { battery, heater } }: DivertDesk): {
  readonly trace: HuntTrace | undefined;
  readonly apart: Apart | undefined;
} {
  const { batterySpeedPerS, heaterSpeedPerS } = divert;
  const pair = useMemo((): readonly [Integrator, Integrator] | undefined => {
    if (!battery || !heater) return undefined;
    const meter = { periodS: PERIOD_S, delayS: DELAY_S };
    const { setPointW, powerW } = battery;
    return [
      { name: "battery", setPointW, gainPerS: batterySpeedPerS, ...meter, leastW: -powerW, mostW: powerW },
      {
        name: "heater",
        setPointW: heater.setPointW,
        gainPerS: heaterSpeedPerS,
        ...meter,
        leastW: 0,
        mostW: heater.ratedW,
      },
    ];
  }, [battery, heater, batterySpeedPerS, heaterSpeedPerS]);
  const trace = useMemo(() => pair && simulateHunt(pair[0], pair[1], [0, SURPLUS_W]), [pair]);
  const apart = useMemo(() => pair && settingsApart(pair[0], pair[1], SURPLUS_W), [pair]);
  return { trace, apart };
}

function HuntFields({
  battery,
  desk,
  heater,
}: {
  battery: NonNullable<DiversionRequest["battery"]>;
  desk: DivertDesk;
  heater: NonNullable<DiversionRequest["heater"]>;
}) {
  const { set, divert } = desk;
  return (
    <div className="flex flex-wrap gap-3">
      <div className="w-44">
        <NumberField
          label="Battery holds the grid at"
          unit="W"
          least={-5001}
          most={5000}
          value={battery.setPointW}
          onValue={(setPointW) =>
            setPointW !== undefined && set({ battery: { ...battery, setPointW } }, "battery set-point")
          }
          hint="+ is importing"
        />
      </div>
      <div className="w-36">
        <NumberField
          label="Battery's speed"
          unit="1/s"
          most={20}
          value={divert.batterySpeedPerS}
          onValue={(batterySpeedPerS) => batterySpeedPerS !== undefined && set({ batterySpeedPerS }, "battery speed")}
        />
      </div>
      <div className="w-44">
        <NumberField
          label="Heater holds the grid at"
          unit="W"
          least={-5001}
          most={5000}
          value={heater.setPointW}
          onValue={(setPointW) =>
            setPointW !== undefined && set({ heater: { ...heater, setPointW } }, "heater set-point")
          }
          hint="+ is importing"
        />
      </div>
      <div className="w-36">
        <NumberField
          label="Heater's speed"
          unit="1/s"
          most={20}
          value={divert.heaterSpeedPerS}
          onValue={(heaterSpeedPerS) => heaterSpeedPerS !== undefined && set({ heaterSpeedPerS }, "heater speed")}
        />
      </div>
    </div>
  );
}

function HuntVerdict({
  verdict,
  trace,
  apart,
  desk,
  heater,
}: {
  verdict: "They hunt" | "The battery feeds the heater" | "They stay apart";
  trace: HuntTrace;
  apart: Apart | undefined;
  desk: DivertDesk;
  heater: NonNullable<DiversionRequest["heater"]>;
}) {
  const say = useSay();
  const { set } = desk;
  return (
    <div role="status">
      <p className={`text-2xl font-bold ${verdict === "They stay apart" ? "text-success" : "text-error"}`}>{verdict}</p>
      {trace.exchangedW > 100 && <p>{say(`${Math.round(trace.exchangedW)} W go from one to the other at the end.`)}</p>}
      {apart ? (
        <p>
          Kept apart with the heater at <b className="reading">{say(`${apart.setPointW} W`)}</b> and a speed of{" "}
          <b className="reading">{say(`${Number(apart.gainPerS.toPrecision(2))} 1/s`)}</b>.{" "}
          <button
            type="button"
            className="btn btn-sm press ml-2"
            onClick={() => set({ heater: { ...heater, setPointW: apart.setPointW }, heaterSpeedPerS: apart.gainPerS })}
          >
            Take these
          </button>
        </p>
      ) : (
        <p>
          None of the set-points and speeds that were tried keeps them apart: make the battery slower, or give the
          heater a CT of its own.
        </p>
      )}
    </div>
  );
}
