"use client";

import { useMemo } from "react";
import type { LimitProof } from "@/core/plan/limitSettings";
import { unprovenPhases } from "@/core/control/stepTest";
import { powerText, threeDigits } from "@/core/units";
import { joined } from "@/core/words";
import { LIMIT_VERDICTS } from "@/ui/limit/LimitSimulation";
import { LineChart } from "@/ui/parts/show/LineChart";
import { useSay } from "@/ui/parts/browser/useNumberStyle";
import { LIMIT_WORDS } from "@/ui/words/limitWords";

const PROOF_VERDICTS: Readonly<Record<LimitProof["verdict"], string>> = {
  ...LIMIT_VERDICTS,
  untested: LIMIT_WORDS.itProvesNothingTheExportNeverCame,
};

/** What a step test shows: its verdict, its figures, and its curve. */
export function ProofNumbers({ proof }: { proof: LimitProof }) {
  const say = useSay();
  const lines = useMemo(
    () =>
      proof.eachPhase?.map(({ phase, exportW }) => ({
        name: LIMIT_WORDS.export(phase),
        values: exportW,
        width: 3,
      })) ?? [{ name: LIMIT_WORDS.exportLower, values: proof.exportW, width: 3 }],
    [proof.exportW, proof.eachPhase],
  );
  const unproven = unprovenPhases(proof);
  return (
    <div>
      <p className={`text-lg font-bold ${proof.verdict === "holds" ? "text-success" : "text-error"}`}>
        {PROOF_VERDICTS[proof.verdict]}
      </p>
      {proof.onBench && <p className="caution font-semibold">{LIMIT_WORDS.recordedOnTheBenchItProvesNothing}</p>}
      <p className="text-sm">
        {say(
          LIMIT_WORDS.largestAboveForSOfAllowedSettledAt(
            powerText(proof.maxExportW),
            powerText(proof.limitW),
            threeDigits(proof.longestOverS),
            proof.secondsAllowed,
            powerText(proof.settledExportW),
          ),
        )}
      </p>
      {proof.eachPhase && (
        <ul className="text-sm">
          {proof.eachPhase.map((own) => (
            <li key={own.phase}>
              <b>{own.phase}</b>:{" "}
              {say(
                LIMIT_WORDS.largestSettledAt(
                  PROOF_VERDICTS[own.verdict].toLowerCase(),
                  powerText(own.maxExportW),
                  powerText(own.settledExportW),
                ),
              )}
            </li>
          ))}
          {unproven.length > 0 && (
            <li className="font-semibold">{LIMIT_WORDS.stillToProveOnePhaseAloneProves(joined(unproven))}</li>
          )}
        </ul>
      )}
      <LineChart
        label={LIMIT_WORDS.exportAsRecorded}
        at={proof.tS}
        lines={lines}
        unit="W"
        atUnit="s"
        heightPx={180}
        mark={{ value: proof.limitW, words: say(LIMIT_WORDS.limit(powerText(proof.limitW))) }}
      />
    </div>
  );
}
