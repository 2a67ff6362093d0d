"use client";

import { useEffect } from "react";
import { BalanceCheck } from "@/ui/prove/BalanceCheck";
import { Assumptions } from "@/ui/prove/Assumptions";
import { Explanations } from "@/ui/prove/Explanations";
import { LogProof } from "@/ui/prove/LogProof";
import { ProofPart } from "@/ui/prove/ProofPart";
import { TestGrid } from "@/ui/prove/TestGrid";
import { VerdictPanel } from "@/ui/prove/VerdictPanel";
import { ThenAndNowPart } from "@/ui/handover/ThenAndNowPart";
import { LiveProof } from "@/ui/live/LiveProof";
import { Below } from "@/ui/parts/show/Below";
import { useNewest } from "@/ui/parts/form/useNewest";
import { useProve } from "@/ui/prove/useProve";
import { PROVE_WORDS } from "@/ui/words/proveWords";

/**
 * Prove: what was seen in a few test steps, which explanation fits, and what to switch on next.
 *
 * @param step The id of the step at which to begin.
 */
export function ProveStage({ step }: { step?: string | undefined }) {
  const prove = useProve();
  const whole = useNewest<HTMLDivElement>(prove.sheet.steps.length, "[data-step]");
  useEffect(() => {
    if (step !== undefined) beginStep(step);
  }, [step]);
  return (
    <div ref={whole} className="space-y-4 p-3 md:p-4">
      <h2 className="sr-only">{PROVE_WORDS.prove}</h2>
      <VerdictPanel prove={prove} />
      <LiveProof prove={prove} />
      <TestGrid prove={prove} />
      <Below>
        <ThenAndNowPart />
        <Explanations prove={prove} />
        <ProofPart prove={prove} />
        <LogProof prove={prove} />
        <div className="grid gap-4 lg:grid-cols-2">
          <BalanceCheck />
          <Assumptions prove={prove} />
        </div>
      </Below>
    </div>
  );
}

/** Bring a step into sight, with the hand at the first of its displays. */
function beginStep(id: string): void {
  const row = document.querySelector(`[data-step-id="${CSS.escape(id)}"]`);
  const box = row?.querySelector("input");
  row?.scrollIntoView({ block: "start" });
  box?.focus({ preventScroll: true });
  box?.select();
}
