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
        Measured inside: only the meter’s class of {say(String(meter.classPct ?? USUAL_METER_CLASS_PCT))} % counts.
      </p>
    );
  if (!ctClass) return <p className="text-sm">Choose a CT, or give its class, to see how far a reading may be off.</p>;
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
    ["at night", flows.nightA],
    ["as usual", flows.typicalA],
    ["full flow", flows.needA],
  ] as const;
  return (
    <section aria-label="Error of the reading">
      <div className="flex flex-wrap items-end justify-between gap-2">
        <div>
          <h4 className="font-bold">How far the reading may be off</h4>
          <p className="quiet text-sm">
            {say(
              `CT class ${ctClass} of ${Number(input.primaryA.toPrecision(4))} A + displacement at cos φ ` +
                `${powerFactor} + meter class ${meterClassPct} %, worst case, each phase`,
            )}
          </p>
        </div>
        <div className="w-32">
          <NumberField
            label="Power factor"
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
  rows: readonly [
    readonly ["at night", number | undefined],
    readonly ["as usual", number | undefined],
    readonly ["full flow", number | undefined],
  ];
  question: ErrorQuestion;
  input: MeterInput;
  lowestPct: number;
}) {
  return (
    <table className="mt-2 w-full text-sm">
      <thead>
        <tr className="border-b border-base-300 text-left">
          <th scope="col">Flow</th>
          <th scope="col" className="text-right">
            Current
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
              ? `nothing promised below ${threeDigits((lowestPct / 100) * input.primaryA)} A`
              : "nothing promised above 120 % of the primary",
          )}
        </td>
      )}
    </tr>
  );
}
