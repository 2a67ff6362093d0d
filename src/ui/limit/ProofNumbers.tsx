"use client";

import { useMemo } from "react";
import type { LimitProof } from "@/core/plan/limitSettings";
import { threeDigits } from "@/core/units";
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
  const lines = useMemo(() => [{ name: "export", values: proof.exportW, width: 3 }], [proof.exportW]);
  return (
    <div>
      <p className={`text-lg font-bold ${proof.verdict === "holds" ? "text-success" : "text-error"}`}>
        {PROOF_VERDICTS[proof.verdict]}
      </p>
      <p className="text-sm">
        {say(
          `Largest ${threeDigits(proof.maxExportW)} W, above ${threeDigits(proof.limitW)} W for ` +
            `${threeDigits(proof.longestOverS)} s of ${proof.secondsAllowed} allowed, settled at ` +
            `${threeDigits(proof.settledExportW)} W.`,
        )}
      </p>
      <LineChart
        label="Export as recorded"
        at={proof.tS}
        lines={lines}
        unit="W"
        atUnit="s"
        heightPx={180}
        mark={{ value: proof.limitW, words: `limit ${proof.limitW} W` }}
      />
    </div>
  );
}
