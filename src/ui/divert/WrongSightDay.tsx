"use client";

import { useMemo, useState } from "react";
import type { FlowSight, SurplusActor, DiversionTotals, DiversionResult } from "@/core/simulation/diversionSchema";
import type { Sight } from "@/core/control/whoSeesWhat";
import { RIGHT_SIGHT, sightMistakes, wrongSights, type SightFlow, type WrongSight } from "@/core/control/sightOfPlan";
import { fixedText } from "@/core/units";
import { useDiversion, type DivertDesk } from "@/ui/divert/useDivert";
import { Failure } from "@/ui/parts/show/Failure";
import type { ChartLine } from "@/ui/parts/show/chartOptions";
import { LineChart } from "@/ui/parts/show/LineChart";
import { SelectField } from "@/ui/parts/form/SelectField";
import { useSay } from "@/ui/parts/browser/useNumberStyle";
import { DIVERT_WORDS } from "@/ui/words/divertWords";

const FLOWS: readonly SightFlow[] = ["sun", "house", "battery", "heater", "vehicle"];
const HOW = [
  { value: "2", label: DIVERT_WORDS.countedTwice },
  { value: "0", label: DIVERT_WORDS.notSeen },
  { value: "-1", label: DIVERT_WORDS.seenTheWrongWay },
] as const;
const ROWS = [
  ["importKwh", DIVERT_WORDS.imported],
  ["exportKwh", DIVERT_WORDS.exported],
  ["batteryInKwh", DIVERT_WORDS.intoTheBattery],
  ["batteryOutKwh", DIVERT_WORDS.outOfTheBattery],
  ["heaterKwh", DIVERT_WORDS.intoTheWater],
  ["vehicleKwh", DIVERT_WORDS.intoTheVehicle],
] as const;

interface Supposed {
  readonly who: SurplusActor | "fitted";
  readonly flow: SightFlow;
  readonly factor: string;
}

/**
 * The day with what a controller sees as the CTs are fitted, or as somebody supposes, beside the same day seen
 * rightly.
 */
export function WrongSightDay({ desk: { dayRequest }, sights }: { desk: DivertDesk; sights: readonly Sight[] }) {
  const actors = dayRequest.orders[0]!;
  const fitted = useMemo(() => wrongSights(sights).filter(({ actor }) => actors.includes(actor)), [sights, actors]);
  const [chosen, setChosen] = useState<Supposed | undefined>();
  const choice: Supposed = chosen ?? {
    who: fitted.length > 0 ? ("fitted" as const) : (actors[0] ?? ("fitted" as const)),
    flow: "sun" as const,
    factor: "2",
  };
  const wrong: Partial<Record<SurplusActor, FlowSight>> =
    choice.who === "fitted"
      ? Object.fromEntries(fitted.map(({ actor, sight }) => [actor, sight]))
      : { [choice.who]: { ...RIGHT_SIGHT, [choice.flow]: Number(choice.factor) } };
  const orders = [actors];
  const right = useDiversion({ ...dayRequest, orders, series: false }).result?.totals[0];
  const { result: so, failure } = useDiversion({ ...dayRequest, orders, sight: wrong });
  const totals = so?.totals[0];
  const series = so?.series;
  const lines = useMemo(() => (series ? gridAsSeen(series) : []), [series]);
  if (actors.length === 0) return null;
  const called = (actor: SurplusActor) =>
    fitted.find((own) => own.actor === actor && choice.who === "fitted")?.controller.name ??
    DIVERT_WORDS.theSController(actor);
  const mistakes = (Object.entries(wrong) as [SurplusActor, FlowSight][]).flatMap(([actor, sight]) =>
    sightMistakes(sight).map((mistake) => ({ ...mistake, actor })),
  );
  const flows = FLOWS.filter((flow) => flow === "sun" || flow === "house" || actors.includes(flow));
  return (
    <section aria-label={DIVERT_WORDS.whatAWrongSightDoes} className="panel space-y-3 p-3">
      <h3 className="font-bold">{DIVERT_WORDS.whatAWrongSightDoesToADay}</h3>
      <SightFields choice={choice} fitted={fitted} actors={actors} setChosen={setChosen} flows={flows} />
      <ul className="space-y-1">
        {mistakes.map(({ actor, flow, words, cure }) => (
          <li key={`${actor} ${flow}`}>
            {called(actor)} <b>{words}</b>
            {DIVERT_WORDS.cure(cure)}
          </li>
        ))}
      </ul>
      <Failure of={DIVERT_WORDS.thisDay} why={failure} />
      {totals && right && <DayTotals totals={totals} right={right} />}
      {series && (
        <LineChart
          label={DIVERT_WORDS.gridAsItIsAndAsItIsSeen}
          at={series.hour}
          lines={lines}
          unit="W"
          atUnit="h"
          heightPx={220}
        />
      )}
    </section>
  );
}

function gridAsSeen({ gridW, seenW }: NonNullable<DiversionResult["series"]>): readonly ChartLine[] {
  return [
    { name: DIVERT_WORDS.gridAsItIsImportingAbove0, values: gridW, width: 3 },
    { name: DIVERT_WORDS.gridAsSeen, values: seenW },
  ];
}

function SightFields({
  choice,
  fitted,
  actors,
  setChosen,
  flows,
}: {
  choice: Supposed;
  fitted: readonly WrongSight[];
  actors: readonly SurplusActor[];
  setChosen: (next: Supposed | undefined) => void;
  flows: readonly SightFlow[];
}) {
  return (
    <div className="flex flex-wrap gap-3">
      <div className="w-56 max-w-full">
        <SelectField
          label={DIVERT_WORDS.whoseCTs}
          value={choice.who}
          options={[
            ...(fitted.length > 0 ? [{ value: "fitted", label: DIVERT_WORDS.allAsAbove }] : []),
            ...actors.map((actor) => ({ value: actor, label: DIVERT_WORDS.supposeTheS(actor) })),
          ]}
          onValue={(who) => setChosen({ ...choice, who: actors.find((actor) => actor === who) ?? "fitted" })}
        />
      </div>
      {choice.who !== "fitted" && (
        <>
          <div className="w-40">
            <SelectField
              label={DIVERT_WORDS.haveThe}
              value={choice.flow}
              options={flows.map((flow) => ({ value: flow, label: flow }))}
              onValue={(flow) => setChosen({ ...choice, flow: FLOWS.find((own) => own === flow) ?? "sun" })}
            />
          </div>
          <div className="w-48">
            <SelectField
              label={DIVERT_WORDS.as}
              value={choice.factor}
              options={HOW}
              onValue={(factor) => setChosen({ ...choice, factor })}
            />
          </div>
        </>
      )}
    </div>
  );
}

function DayTotals({ totals, right }: { totals: DiversionTotals; right: DiversionTotals }) {
  const say = useSay();
  return (
    <table className="w-full max-w-2xl text-left text-sm">
      <thead>
        <tr className="border-b-2 border-base-300">
          <th scope="col">{DIVERT_WORDS.thisDayKWh}</th>
          {[DIVERT_WORDS.seenRightly, DIVERT_WORDS.seenSo, DIVERT_WORDS.difference].map((name) => (
            <th key={name} scope="col" className="pl-3 text-right">
              {name}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {ROWS.filter(([key]) => Math.max(totals[key], right[key]) >= 0.05).map(([key, name]) => (
          <tr key={key} className="border-b border-base-300">
            <th scope="row" className="py-1 font-normal">
              {name}
            </th>
            {[right[key], totals[key]].map((kwh, at) => (
              <td key={at} className="reading text-right">
                {say(kwh.toFixed(1))}
              </td>
            ))}
            <td className="reading text-right font-bold">
              {say(fixedText(totals[key] - right[key], 1, "difference"))}
            </td>
          </tr>
        ))}
        <tr>
          <th scope="row" className="py-1 font-normal">
            {DIVERT_WORDS.billMoney}
          </th>
          {[right.money, totals.money].map((money, at) => (
            <td key={at} className="reading text-right">
              {say(fixedText(money, 2))}
            </td>
          ))}
          <td className="reading text-right font-bold">
            {say(fixedText(totals.money - right.money, 2, "difference"))}
          </td>
        </tr>
      </tbody>
    </table>
  );
}
