"use client";

import { useMemo } from "react";
import type { LimitProof } from "@/core/plan/limitSettings";
import { unprovenPhases } from "@/core/control/stepTest";
import { powerText, threeDigits } from "@/core/units";
import { joined } from "@/core/words";
import { LIMIT_VERDICTS } from "@/ui/limit/LimitSimulation";
import { LineChart } from "@/ui/parts/show/LineChart";
import { useSay } from "@/ui/parts/browser/useNumberStyle";

const PROOF_VERDICTS: Readonly<Record<LimitProof["verdict"], string>> = {
  ...LIMIT_VERDICTS,
  untested: "It proves nothing: the export never came near the limit",
};

/** What a step test shows: its verdict, its figures, and its curve. */
export function ProofNumbers({ proof }: { proof: LimitProof }) {
  const say = useSay();
  const lines = useMemo(
    () =>
      proof.eachPhase?.map(({ phase, exportW }) => ({ name: `export ${phase}`, values: exportW, width: 3 })) ?? [
        { name: "export", values: proof.exportW, width: 3 },
      ],
    [proof.exportW, proof.eachPhase],
  );
  const unproven = unprovenPhases(proof);
  return (
    <div>
      <p className={`text-lg font-bold ${proof.verdict === "holds" ? "text-success" : "text-error"}`}>
        {PROOF_VERDICTS[proof.verdict]}
      </p>
      {proof.onBench && <p className="caution font-semibold">Recorded on the bench: it proves nothing of the site.</p>}
      <p className="text-sm">
        {say(
          `Largest ${powerText(proof.maxExportW)}, above ${powerText(proof.limitW)} for ` +
            `${threeDigits(proof.longestOverS)} s of ${proof.secondsAllowed} allowed, settled at ` +
            `${powerText(proof.settledExportW)}.`,
        )}
      </p>
      {proof.eachPhase && (
        <ul className="text-sm">
          {proof.eachPhase.map((own) => (
            <li key={own.phase}>
              <b>{own.phase}</b>:{" "}
              {say(
                `${PROOF_VERDICTS[own.verdict].toLowerCase()}; largest ${powerText(own.maxExportW)}, settled at ` +
                  `${powerText(own.settledExportW)}`,
              )}
            </li>
          ))}
          {unproven.length > 0 && (
            <li className="font-semibold">Still to prove: {joined(unproven)}. One phase alone proves one phase.</li>
          )}
        </ul>
      )}
      <LineChart
        label="Export as recorded"
        at={proof.tS}
        lines={lines}
        unit="W"
        atUnit="s"
        heightPx={180}
        mark={{ value: proof.limitW, words: say(`limit ${powerText(proof.limitW)}`) }}
      />
    </div>
  );
}
