"use client";

import type { Background } from "@/core/flows/testSheetSchema";
import { nodeName } from "@/core/site/tree";
import { PowerField } from "@/ui/parts/form/PowerField";
import type { ProveDesk } from "@/ui/prove/useProve";
import { Say } from "@/ui/parts/show/Say";
import { PROVE_WORDS } from "@/ui/words/proveWords";

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
      <summary className="press flex cursor-pointer items-center font-bold">
        {PROVE_WORDS.whatTheVerdictRestsOn}
      </summary>
      <div className="mt-2 space-y-3">
        <p className="text-sm leading-snug">
          {PROVE_WORDS.probabilityOfAFittingPrior}
          <Say>{PROVE_WORDS.wAnd(sheet.noise.absoluteW, (100 * sheet.noise.relative).toFixed(1))}</Say> %.
        </p>
        {background.map((load, at) => (
          <BackgroundFields key={load.node} load={load} prove={prove} put={put} at={at} />
        ))}
        <label className="block text-sm">
          <span className="mb-1 block font-semibold">{PROVE_WORDS.faultsLookedForAtOnce}</span>
          <select
            className="field"
            value={sheet.maxFaults}
            onChange={(event) => prove.assume({ maxFaults: Number(event.target.value) })}
          >
            <option value={1}>{PROVE_WORDS.one}</option>
            <option value={2}>{PROVE_WORDS.upToTwo}</option>
            <option value={3}>{PROVE_WORDS.upToThreeSlowOnLargeSites}</option>
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
      <legend className="mb-1 font-semibold">{PROVE_WORDS.onEachPhase(nodeName(prove.site, load.node))}</legend>
      <label>
        {PROVE_WORDS.mean}
        <PowerField
          label={PROVE_WORDS.meanOf(nodeName(prove.site, load.node))}
          powerW={load.meanW}
          onPower={(meanW) => put(at, { meanW: meanW ?? 0 }, "mean")}
        />
      </label>
      <label>
        {PROVE_WORDS.spread}
        <PowerField
          label={PROVE_WORDS.spreadOf(nodeName(prove.site, load.node))}
          powerW={load.sdW}
          onPower={(sdW) => put(at, { sdW: sdW ?? 0 }, "spread")}
          refuse={notNegative}
        />
      </label>
      <label>
        {PROVE_WORDS.drift}
        <PowerField
          label={PROVE_WORDS.driftOf(nodeName(prove.site, load.node))}
          powerW={load.driftSdW}
          onPower={(driftSdW) => put(at, { driftSdW: driftSdW ?? 0 }, "drift")}
          refuse={notNegative}
        />
      </label>
    </fieldset>
  );
}

function notNegative(valueW: number): string | undefined {
  return valueW < 0 ? PROVE_WORDS.notBelowZero : undefined;
}
