"use client";

import { useMemo } from "react";
import type { DiversionRequest } from "@/core/simulation/diversionSchema";
import { settingsApart, simulateHunt, type Integrator, type HuntTrace, type Apart } from "@/core/simulation/hunting";
import type { DivertDesk } from "@/ui/divert/useDivert";
import { LineChart } from "@/ui/parts/show/LineChart";
import { NumberField } from "@/ui/parts/form/NumberField";
import { useSay } from "@/ui/parts/browser/useNumberStyle";
import { DIVERT_WORDS } from "@/ui/words/divertWords";

const SURPLUS_W = 1500;
const PERIOD_S = 1;
const DELAY_S = 0.8;
/** What one gives the other is told from here on; below it is the play of their regulation. */
const EXCHANGED_W = 100;

type HuntVerdict = "hunt" | "feed" | "apart";

const HUNT_WORDS: Readonly<Record<HuntVerdict, string>> = {
  hunt: DIVERT_WORDS.theyHunt,
  feed: DIVERT_WORDS.theBatteryFeedsTheHeater,
  apart: DIVERT_WORDS.theyStayApart,
};

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
            { name: DIVERT_WORDS.gridImporting, values: trace.gridW, width: 3.5 },
            { name: DIVERT_WORDS.batteryChargingLower, values: trace.aW },
            { name: DIVERT_WORDS.heater, values: trace.bW },
          ]
        : [],
    [trace],
  );
  if (!trace || !battery || !heater)
    return <p className="mx-auto max-w-6xl">{DIVERT_WORDS.thisPlanHasNoBatteryAndDiverter}</p>;
  const verdict = huntVerdict(trace);
  return (
    <div className="mx-auto max-w-6xl space-y-4">
      <HuntFields battery={battery} desk={desk} heater={heater} />
      <HuntSaid verdict={verdict} trace={trace} apart={apart} desk={desk} heater={heater} />
      <LineChart
        label={DIVERT_WORDS.gridBatteryAndHeaterAfterW(SURPLUS_W, HUNT_WORDS[verdict])}
        at={trace.tS}
        lines={lines}
        unit="W"
        atUnit="s"
        heightPx={320}
      />
      <p className="quiet text-sm">{DIVERT_WORDS.bothActOnceASecondOnAGridReading(say(String(DELAY_S)), SURPLUS_W)}</p>
    </div>
  );
}

function huntVerdict({ isHunting, exchangedW }: HuntTrace): HuntVerdict {
  return isHunting ? "hunt" : exchangedW > EXCHANGED_W ? "feed" : "apart";
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
      {
        name: DIVERT_WORDS.batteryLower,
        setPointW,
        gainPerS: batterySpeedPerS,
        ...meter,
        leastW: -powerW,
        mostW: powerW,
      },
      {
        name: DIVERT_WORDS.heater,
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
          label={DIVERT_WORDS.batteryHoldsTheGridAt}
          unit="W"
          least={-5001}
          most={5000}
          value={battery.setPointW}
          onValue={(setPointW) =>
            setPointW !== undefined && set({ battery: { ...battery, setPointW } }, "battery set-point")
          }
          hint={DIVERT_WORDS.isImporting}
        />
      </div>
      <div className="w-36">
        <NumberField
          label={DIVERT_WORDS.batterysSpeed}
          unit="1/s"
          most={20}
          value={divert.batterySpeedPerS}
          onValue={(batterySpeedPerS) => batterySpeedPerS !== undefined && set({ batterySpeedPerS }, "battery speed")}
        />
      </div>
      <div className="w-44">
        <NumberField
          label={DIVERT_WORDS.heaterHoldsTheGridAt}
          unit="W"
          least={-5001}
          most={5000}
          value={heater.setPointW}
          onValue={(setPointW) =>
            setPointW !== undefined && set({ heater: { ...heater, setPointW } }, "heater set-point")
          }
          hint={DIVERT_WORDS.isImporting}
        />
      </div>
      <div className="w-36">
        <NumberField
          label={DIVERT_WORDS.heatersSpeed}
          unit="1/s"
          most={20}
          value={divert.heaterSpeedPerS}
          onValue={(heaterSpeedPerS) => heaterSpeedPerS !== undefined && set({ heaterSpeedPerS }, "heater speed")}
        />
      </div>
    </div>
  );
}

function HuntSaid({
  verdict,
  trace,
  apart,
  desk,
  heater,
}: {
  verdict: HuntVerdict;
  trace: HuntTrace;
  apart: Apart | undefined;
  desk: DivertDesk;
  heater: NonNullable<DiversionRequest["heater"]>;
}) {
  const say = useSay();
  const { set } = desk;
  return (
    <div role="status">
      <p className={`text-2xl font-bold ${verdict === "apart" ? "text-success" : "text-error"}`}>
        {HUNT_WORDS[verdict]}
      </p>
      {trace.exchangedW > EXCHANGED_W && (
        <p>{say(DIVERT_WORDS.wGoFromOneToTheOtherAtTheEnd(Math.round(trace.exchangedW)))}</p>
      )}
      {apart ? (
        <p>
          {DIVERT_WORDS.keptApartWithTheHeaterAt} <b className="reading">{say(`${apart.setPointW} W`)}</b>{" "}
          {DIVERT_WORDS.andASpeedOf}
          <b className="reading">{say(`${Number(apart.gainPerS.toPrecision(2))} 1/s`)}</b>.{" "}
          <button
            type="button"
            className="btn btn-sm press ml-2"
            onClick={() => set({ heater: { ...heater, setPointW: apart.setPointW }, heaterSpeedPerS: apart.gainPerS })}
          >
            {DIVERT_WORDS.takeThese}
          </button>
        </p>
      ) : (
        <p>{DIVERT_WORDS.noneOfTheSetPointsAndSpeeds}</p>
      )}
    </div>
  );
}
