"use client";

import { useWhen } from "@/ui/parts/browser/useWhen";
import { Trash2 } from "lucide-react";
import type { ExportLimiter } from "@/core/control/exportLimiter";
import { stepTestRecipe } from "@/core/control/stepTest";
import type { LimitProof } from "@/core/plan/limitSettings";
import { FallbackTests } from "@/ui/limit/FallbackTests";
import { NewProof } from "@/ui/limit/NewProof";
import { ProofNumbers } from "@/ui/limit/ProofNumbers";
import type { LimitDesk } from "@/ui/limit/useLimit";
import { LIMIT_WORDS } from "@/ui/words/limitWords";

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
  if (limit.powerW === undefined)
    return <p className="mx-auto max-w-6xl">{LIMIT_WORDS.typeTheLimitUnderSettingsFirst}</p>;
  return (
    <div className="mx-auto max-w-6xl space-y-4">
      <section aria-label={LIMIT_WORDS.recipe} className="panel p-3">
        <h3 className="font-bold">{LIMIT_WORDS.stepTest}</h3>
        <ol className="ml-5 list-decimal space-y-1">
          {recipe.map((line) => (
            <li key={line}>{line}.</li>
          ))}
        </ol>
        <p className="caution mt-2">{LIMIT_WORDS.theSiteIsLiveCoversOnWherever}</p>
      </section>
      <NewProof desk={desk} />
      <FallbackTests desk={desk} limiter={limiter} />
      <section aria-label={LIMIT_WORDS.proofs} className="space-y-3">
        <h3 className="font-bold">{LIMIT_WORDS.proofsKept}</h3>
        {limit.proofs.length === 0 && <p className="quiet">{LIMIT_WORDS.noneYet}</p>}
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
          <span className="sr-only">{LIMIT_WORDS.remove(proof.label)}</span>
        </button>
      </p>
      <ProofNumbers proof={proof} />
    </article>
  );
}
