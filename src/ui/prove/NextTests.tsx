"use client";

import { Zap } from "lucide-react";
import { useState } from "react";
import { settlesText, type NextTest } from "@/core/flows/nextTests";
import type { ProveDesk } from "@/ui/prove/useProve";
import { Say } from "@/ui/parts/show/Say";
import { PROVE_WORDS } from "@/ui/words/proveWords";

interface Props {
  readonly prove: ProveDesk;
  readonly tests: readonly NextTest[];
  /** The first of them repeats a step of which a reading is doubtful. */
  readonly isDoubt: boolean;
}

/** What to switch on next, why, and how much it would tell; the others behind it. */
export function NextTests({ prove, tests, isDoubt }: Props) {
  const [all, setAll] = useState(false);
  const [first, ...others] = tests;
  if (!first) return null;
  return (
    <div>
      <h3 className="flex items-center gap-1 font-bold">
        <Zap size={18} aria-hidden />
        {PROVE_WORDS.doThisNext}
      </h3>
      <Test prove={prove} test={first} isFirst isAgain={isDoubt} />
      {others.length > 0 && (
        <button
          type="button"
          className="btn btn-ghost btn-sm press px-1"
          aria-expanded={all}
          onClick={() => setAll(!all)}
        >
          {all
            ? PROVE_WORDS.onlyTheBest
            : others.length === 1
              ? PROVE_WORDS.oneOtherTest
              : PROVE_WORDS.otherTests(others.length)}
        </button>
      )}
      {all && others.map((test) => <Test key={test.label} prove={prove} test={test} isFirst={false} isAgain={false} />)}
    </div>
  );
}

interface TestProps {
  readonly prove: ProveDesk;
  readonly test: NextTest;
  readonly isFirst: boolean;
  readonly isAgain: boolean;
}

function Test({ prove, test, isFirst, isAgain }: TestProps) {
  return (
    <div className="border-b border-base-300 py-2 last:border-b-0">
      <p className={isFirst ? "text-lg font-bold text-primary" : "font-semibold"}>{test.label}</p>
      <p className="mt-0.5 text-sm leading-snug">
        {PROVE_WORDS.it(test.why)}
        {!isAgain && (
          <>
            {" "}
            (<Say>{PROVE_WORDS.bits(test.gainBits.toFixed(2))}</Say>)
          </>
        )}
        .
      </p>
      <p className="mt-1 flex items-center gap-2">
        {!isAgain && (
          <>
            <span className="h-3 w-16 shrink-0 rounded-sm border border-secondary" aria-hidden>
              <span className="block h-full bg-secondary" style={{ width: `${100 * test.settles}%` }} />
            </span>
            <span className="text-sm leading-snug">{settlesText(test.settles)}</span>
          </>
        )}
        <button
          type="button"
          className={`btn press ml-auto ${isFirst ? "btn-primary" : "btn-sm"}`}
          onClick={() => prove.addProposed(test)}
        >
          {isAgain ? PROVE_WORDS.readItAgain : PROVE_WORDS.addThisStep}
        </button>
      </p>
    </div>
  );
}
