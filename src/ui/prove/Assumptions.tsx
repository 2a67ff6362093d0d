"use client";

import type { Background } from "@/core/flows/testSheetSchema";
import { nodeName } from "@/core/site/tree";
import { PowerField } from "@/ui/parts/form/PowerField";
import type { ProveDesk } from "@/ui/prove/useProve";
import { Say } from "@/ui/parts/show/Say";

/**
 * What a verdict rests on: the background nobody knows, the noise of a display, and how many faults are looked for at
 * once.
 */
export function Assumptions({ prove }: { prove: ProveDesk }) {
  const { sheet, background } = prove;
  const put = (at: number, change: Partial<Background>, field: string) =>
    prove.assume({ background: background.with(at, { ...background[at]!, ...change }) }, `background ${at} ${field}`);
  return (
    <details className="panel p-3">
      <summary className="press flex cursor-pointer items-center font-bold">What the verdict rests on</summary>
      <div className="mt-2 space-y-3">
        <p className="text-sm leading-snug">
          Probability of a fitting = (prior of its faults) × N(readings; μ, Σ), over all fittings that sum to one. μ and
          Σ follow from the known powers and the background below: each phase draws its mean ± spread, the same in every
          step, ± drift in each. A reading is uncertain by √(absolute² + (relative · reading)²). Here:{" "}
          <Say>{`${sheet.noise.absoluteW} W and ${(100 * sheet.noise.relative).toFixed(1)}`}</Say> %.
        </p>
        {background.map((load, at) => (
          <BackgroundFields key={load.node} load={load} prove={prove} put={put} at={at} />
        ))}
        <label className="block text-sm">
          <span className="mb-1 block font-semibold">Faults looked for at once</span>
          <select
            className="field"
            value={sheet.maxFaults}
            onChange={(event) => prove.assume({ maxFaults: Number(event.target.value) })}
          >
            <option value={1}>one</option>
            <option value={2}>up to two</option>
            <option value={3}>up to three (slow on large sites)</option>
          </select>
        </label>
      </div>
    </details>
  );
}

function BackgroundFields({
  load,
  prove,
  put,
  at,
}: {
  load: Background;
  prove: ProveDesk;
  put: (at: number, change: Partial<Background>, field: string) => void;
  at: number;
}) {
  return (
    <fieldset className="grid grid-cols-3 gap-2 text-sm">
      <legend className="mb-1 font-semibold">{nodeName(prove.site, load.node)}, on each phase</legend>
      <label>
        mean
        <PowerField
          label={`${nodeName(prove.site, load.node)}, mean`}
          powerW={load.meanW}
          onPower={(meanW) => put(at, { meanW: meanW ?? 0 }, "mean")}
        />
      </label>
      <label>
        spread
        <PowerField
          label={`${nodeName(prove.site, load.node)}, spread`}
          powerW={load.sdW}
          onPower={(sdW) => put(at, { sdW: sdW ?? 0 }, "spread")}
          refuse={notNegative}
        />
      </label>
      <label>
        drift
        <PowerField
          label={`${nodeName(prove.site, load.node)}, drift`}
          powerW={load.driftSdW}
          onPower={(driftSdW) => put(at, { driftSdW: driftSdW ?? 0 }, "drift")}
          refuse={notNegative}
        />
      </label>
    </fieldset>
  );
}

function notNegative(valueW: number): string | undefined {
  return valueW < 0 ? "not below zero" : undefined;
}
