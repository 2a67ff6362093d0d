"use client";

import dynamic from "next/dynamic";
import { useState } from "react";
import { classRange } from "@/core/sensing/ctAccuracy";
import { errorAt, errorCurve, type ErrorQuestion, type ErrorPoint } from "@/core/sensing/errorCurve";
import { inputFlows } from "@/core/sensing/inputFlows";
import type { PlanInput } from "@/core/plan/resolvedPlan";
import type { MeterInput } from "@/core/site/planSchema";
import { threeDigits } from "@/core/units";
import { NumberField } from "@/ui/parts/form/NumberField";
import { useSay } from "@/ui/parts/browser/useNumberStyle";
import type { PlanDesk } from "@/ui/plan/usePlan";
import { PLAN_WORDS } from "@/ui/words/planWords";

const USUAL_METER_CLASS_PCT = 1;
const ErrorChart = dynamic(() => import("@/ui/plan/ErrorChart").then((module) => module.ErrorChart), {
  ssr: false,
  loading: () => <div className="h-44" />,
});

/**
 * How far a reading of this CT and meter may be off: at night, as usual, and at full flow, and over the whole range.
 */
export function ErrorBand({ plan: { site }, setup: { meter, input } }: { plan: PlanDesk; setup: PlanInput }) {
  const [powerFactor, setPowerFactor] = useState(1);
  const say = useSay();
  const ctClass = input.clamp?.class;
  if (input.builtIn)
    return (
      <p className="text-sm">
        {PLAN_WORDS.measuredInsideOnlyTheMetersClass(say(String(meter.classPct ?? USUAL_METER_CLASS_PCT)))}
      </p>
    );
  if (!ctClass) return <p className="text-sm">{PLAN_WORDS.chooseACtOrGiveItsClassToSeeHowFar}</p>;
  const meterClassPct = meter.classPct ?? USUAL_METER_CLASS_PCT;
  const question: ErrorQuestion = {
    ctClass,
    primaryA: input.primaryA,
    meterClassPct,
    powerFactor,
    voltageV: site.supply.voltageV,
  };
  const flows = inputFlows(site, input);
  const { lowestPct } = classRange(ctClass);
  const rows = [
    [PLAN_WORDS.atNight, flows.nightA],
    [PLAN_WORDS.asUsual, flows.typicalA],
    [PLAN_WORDS.fullFlow, flows.needA],
  ] as const;
  return (
    <section aria-label={PLAN_WORDS.errorOfTheReading}>
      <div className="flex flex-wrap items-end justify-between gap-2">
        <div>
          <h4 className="font-bold">{PLAN_WORDS.howFarTheReadingMayBeOff}</h4>
          <p className="quiet text-sm">
            {say(
              PLAN_WORDS.ctClassOfADisplacementAtCosMeter(
                ctClass,
                Number(input.primaryA.toPrecision(4)),
                powerFactor,
                meterClassPct,
              ),
            )}
          </p>
        </div>
        <div className="w-32">
          <NumberField
            label={PLAN_WORDS.powerFactor}
            value={powerFactor}
            least={0.05}
            most={1}
            onValue={(value) => value !== undefined && setPowerFactor(value)}
          />
        </div>
      </div>
      <FlowErrors rows={rows} question={question} input={input} lowestPct={lowestPct} />
      <ErrorChart points={errorCurve(question)} />
    </section>
  );
}

function FlowErrors({
  rows,
  question,
  input,
  lowestPct,
}: {
  rows: readonly (readonly [string, number | undefined])[];
  question: ErrorQuestion;
  input: MeterInput;
  lowestPct: number;
}) {
  return (
    <table className="mt-2 w-full text-sm">
      <thead>
        <tr className="border-b border-base-300 text-left">
          <th scope="col">{PLAN_WORDS.flow}</th>
          <th scope="col" className="text-right">
            {PLAN_WORDS.current}
          </th>
          <th scope="col" className="text-right">
            ± %
          </th>
          <th scope="col" className="text-right">
            ± W
          </th>
        </tr>
      </thead>
      <tbody>
        {rows.map(([name, currentA]) => {
          if (currentA === undefined) return null;
          const error = errorAt(question, currentA);
          return (
            <FlowErrorRow
              key={name}
              name={name}
              currentA={currentA}
              error={error}
              input={input}
              lowestPct={lowestPct}
            />
          );
        })}
      </tbody>
    </table>
  );
}

function FlowErrorRow({
  name,
  currentA,
  error,
  input,
  lowestPct,
}: {
  name: string;
  currentA: number;
  error: ErrorPoint | undefined;
  input: MeterInput;
  lowestPct: number;
}) {
  const say = useSay();
  return (
    <tr className="border-b border-base-300">
      <th scope="row" className="text-left font-normal">
        {name}
      </th>
      <td className="reading text-right">{say(currentA.toFixed(1))} A</td>
      {error ? (
        <>
          <td className="reading text-right">{say(error.errorPct.toFixed(2))}</td>
          <td className="reading text-right">{say(error.errorW.toFixed(0))}</td>
        </>
      ) : (
        <td colSpan={2} className="text-right">
          {say(
            currentA < input.primaryA
              ? PLAN_WORDS.nothingPromisedBelowA(threeDigits((lowestPct / 100) * input.primaryA))
              : PLAN_WORDS.nothingPromisedAbove120,
          )}
        </td>
      )}
    </tr>
  );
}
