"use client";

import { Search } from "lucide-react";
import Link from "next/link";
import { useMemo, useState } from "react";
import type { Kit } from "@/core/kits/kitSchema";
import { usualAnswers } from "@/core/patterns/patternAnswers";
import type { Pattern } from "@/core/patterns/patternSchema";
import { planFromPattern } from "@/core/patterns/planFromPattern";
import { BoardSketch } from "@/ui/board/BoardSketch";
import { PatternQuestions } from "@/ui/patterns/PatternQuestions";
import { ThemeSwitch } from "@/ui/parts/browser/ThemeSwitch";
import { PATTERNS_WORDS } from "@/ui/words/patternsWords";

const SYSTEM_WORDS = {
  "single-phase": PATTERNS_WORDS.singlePhase,
  "split-phase": PATTERNS_WORDS.splitPhase,
  "three-phase": PATTERNS_WORDS.threePhase,
} as const;

interface Props {
  readonly patterns: readonly Pattern[];
  readonly kits: readonly Kit[];
  /** The name of the pattern that was picked. */
  readonly chosen?: string;
}

/** Pick the kind of site, answer what it cannot know, and have a whole plan. */
export function NewFromPattern({ patterns, kits, chosen }: Props) {
  const [sought, setSought] = useState("");
  const pattern = patterns.find(({ id }) => id === chosen);
  const shown = patterns.filter((candidate) => matches(candidate, sought));
  return (
    <div className="mx-auto max-w-7xl p-4 sm:p-6">
      <header className="flex flex-wrap items-end gap-x-4 gap-y-2">
        <div>
          <Link href="/jobs" className="link quiet press inline-flex items-center text-sm">
            {PATTERNS_WORDS.jobs}
          </Link>
          <h1 className="text-3xl font-bold leading-tight">
            {pattern ? pattern.title : PATTERNS_WORDS.whatKindOfSiteIsIt}
          </h1>
        </div>
        <span className="mr-auto">
          <ThemeSwitch />
        </span>
        {pattern ? (
          <Link className="btn press" href="/jobs/new">
            {PATTERNS_WORDS.allPatterns}
          </Link>
        ) : (
          <label className="flex items-center gap-2">
            <Search size={18} aria-hidden />
            <span className="sr-only">{PATTERNS_WORDS.searchThePatterns}</span>
            <input
              className="field w-64"
              type="search"
              placeholder={PATTERNS_WORDS.batteryThreePhaseRadio}
              value={sought}
              onChange={(event) => setSought(event.target.value)}
            />
          </label>
        )}
      </header>
      <main className="mt-4">
        {pattern ? (
          <PatternQuestions key={pattern.id} pattern={pattern} kits={kits} />
        ) : (
          <>
            {shown.length === 0 && <p className="panel p-6">{PATTERNS_WORDS.noPatternHasAllOfTheseWordsTake}</p>}
            <ul className="grid grid-cols-1 gap-3 sm:grid-cols-2 xl:grid-cols-3">
              {shown.map((candidate) => (
                <li key={candidate.id}>
                  <PatternCard pattern={candidate} kits={kits} />
                </li>
              ))}
            </ul>
          </>
        )}
      </main>
    </div>
  );
}

function PatternCard({ pattern, kits }: { pattern: Pattern; kits: readonly Kit[] }) {
  const site = useMemo(() => {
    const outcome = planFromPattern(pattern, usualAnswers(pattern), kits);
    return outcome.kind === "job" ? outcome.document : undefined;
  }, [pattern, kits]);
  return (
    <article className="panel flex h-full flex-col gap-2 p-3">
      <h2 className="text-lg font-bold leading-tight">
        <Link className="press flex w-full items-center text-left hover:underline" href={`/jobs/new/${pattern.id}`}>
          {pattern.title}
        </Link>
      </h2>
      <p className="-mt-2 text-sm leading-snug">
        <span className="quiet">{pattern.supply.systems.map((system) => SYSTEM_WORDS[system]).join(" or ")}. </span>
        {pattern.summary}
      </p>
      {site && (
        <div className="mt-auto">
          <BoardSketch
            site={site.site}
            scheme={site.job.colourScheme}
            marked={NOTHING}
            label={PATTERNS_WORDS.railBoardOf(pattern.title)}
            fitHeight={CARD_SKETCH_PX}
          />
        </div>
      )}
    </article>
  );
}

const CARD_SKETCH_PX = 170;
const NOTHING: ReadonlySet<string> = new Set();

function matches(pattern: Pattern, sought: string): boolean {
  const text = [
    pattern.id,
    pattern.title,
    pattern.summary,
    ...pattern.supply.systems.map((system) => SYSTEM_WORDS[system]),
    ...pattern.nodes.map((node) => node.name),
    ...pattern.equipment.map((item) => item.name),
  ]
    .join(" ")
    .toLowerCase();
  return sought
    .toLowerCase()
    .split(/\s+/)
    .every((word) => text.includes(word));
}
