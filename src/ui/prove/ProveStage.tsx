"use client";

import { BalanceCheck } from "@/ui/prove/BalanceCheck";
import { Assumptions } from "@/ui/prove/Assumptions";
import { Explanations } from "@/ui/prove/Explanations";
import { LogProof } from "@/ui/prove/LogProof";
import { ProofPart } from "@/ui/prove/ProofPart";
import { TestGrid } from "@/ui/prove/TestGrid";
import { VerdictPanel } from "@/ui/prove/VerdictPanel";
import { useProve } from "@/ui/prove/useProve";

/** Prove: what was seen in a few test steps, which explanation fits, and what to switch on next. */
export function ProveStage() {
  const prove = useProve();
  return (
    <div className="space-y-4 p-3 md:p-4">
      <h2 className="sr-only">Prove</h2>
      <VerdictPanel prove={prove} />
      <TestGrid prove={prove} />
      <Explanations prove={prove} />
      <ProofPart prove={prove} />
      <LogProof prove={prove} />
      <div className="grid gap-4 lg:grid-cols-2">
        <BalanceCheck />
        <Assumptions prove={prove} />
      </div>
    </div>
  );
}
