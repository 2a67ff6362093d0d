"use client";

import { useWhen } from "@/ui/parts/browser/useNumberStyle";
import { Trash2 } from "lucide-react";
import type { ExportLimiter } from "@/core/control/exportLimiter";
import { stepTestRecipe } from "@/core/control/stepTest";
import type { LimitProof } from "@/core/plan/limitSettings";
import { FallbackTests } from "@/ui/limit/FallbackTests";
import { NewProof } from "@/ui/limit/NewProof";
import { ProofNumbers } from "@/ui/limit/ProofNumbers";
import type { LimitDesk } from "@/ui/limit/useLimit";

/**
 * The step test: how to do it here, its recording from a file or typed, judged by the code that judges the simulation,
 * and kept.
 */
export function LimitProofPart({ desk, limiter }: { desk: LimitDesk; limiter: ExportLimiter }) {
  const { document, limit } = desk;
  const recipe = stepTestRecipe(
    limit,
    limiter,
    document.site.nodes
      .filter(({ kind }) => kind === "test-load" || kind === "load")
      .filter(({ ratedW }) => ratedW !== undefined),
    document.site.supply,
  );
  if (limit.powerW === undefined) return <p className="mx-auto max-w-6xl">Type the limit under Settings first.</p>;
  return (
    <div className="mx-auto max-w-6xl space-y-4">
      <section aria-label="Recipe" className="panel p-3">
        <h3 className="font-bold">Step test</h3>
        <ol className="ml-5 list-decimal space-y-1">
          {recipe.map((line) => (
            <li key={line}>{line}.</li>
          ))}
        </ol>
        <p className="caution mt-2">
          The site is live: covers on wherever nothing is measured; pull data plugs only. Local rules and the maker’s
          manual come first.
        </p>
      </section>
      <NewProof desk={desk} />
      <FallbackTests desk={desk} limiter={limiter} />
      <section aria-label="Proofs" className="space-y-3">
        <h3 className="font-bold">Proofs kept</h3>
        {limit.proofs.length === 0 && <p className="quiet">None yet.</p>}
        {limit.proofs.toReversed().map((proof) => (
          <ProofCard key={proof.id} desk={desk} proof={proof} />
        ))}
      </section>
    </div>
  );
}

function ProofCard({ desk: { limit, set }, proof }: { desk: LimitDesk; proof: LimitProof }) {
  const when = useWhen();
  return (
    <article className="panel p-3">
      <p className="flex flex-wrap items-center gap-x-3">
        <b>{proof.label}</b>
        <span className="quiet text-sm">
          {when(proof.at, "full")}
          {proof.person ? `, ${proof.person}` : ""}
        </span>
        <button
          type="button"
          className="btn btn-ghost press ml-auto px-2"
          onClick={() => set({ proofs: limit.proofs.filter(({ id }) => id !== proof.id) })}
        >
          <Trash2 size={18} aria-hidden />
          <span className="sr-only">Remove {proof.label}</span>
        </button>
      </p>
      <ProofNumbers proof={proof} />
    </article>
  );
}
