"use client";

import Link from "next/link";
import { useRouter } from "next/navigation";
import { useState } from "react";
import { madeJobSchema } from "@/core/answers/jobAnswers";
import { FIRST_STEP, type DoubtedSite } from "@/core/job/doubtedSite";
import { callApi, UNREACHABLE, type ApiProblem } from "@/ui/parts/server/apiClient";
import { useRepeatableId } from "@/ui/parts/server/useRepeatableId";
import { useWhen } from "@/ui/parts/browser/useWhen";
import { ProblemList } from "@/ui/parts/show/ProblemList";
import { JOBS_WORDS } from "@/ui/words/jobsWords";

const SUPPLIES = {
  "single-phase": JOBS_WORDS.singlePhase,
  "split-phase": JOBS_WORDS.splitPhase,
  "three-phase": JOBS_WORDS.threePhase,
} as const;
const SOURCES = {
  solar: JOBS_WORDS.solar,
  "solar-and-battery": JOBS_WORDS.solarAndABatteryInverter,
  battery: JOBS_WORDS.aBatteryInverterAlone,
  none: JOBS_WORDS.neither,
} as const;
const METERS = { grid: JOBS_WORDS.theSupplyAlone, "grid-and-solar": JOBS_WORDS.theSupplyAndTheSolar } as const;

/** Three questions about a site whose numbers look wrong; the last answer opens its sheet at the first reading. */
export function ReadsWrongPage() {
  const router = useRouter();
  const { idFor } = useRepeatableId();
  const when = useWhen();
  // The same while the page stands: what is sent again after a lost answer is the same request.
  const [openedAt] = useState(() => new Date().toISOString());
  const [system, setSystem] = useState<DoubtedSite["system"]>();
  const [sources, setSources] = useState<DoubtedSite["sources"]>();
  const [problem, setProblem] = useState<ApiProblem | undefined>();
  const [chosen, setChosen] = useState<DoubtedSite["meters"]>();
  const hasSolar = sources?.startsWith("solar") ?? false;

  const make = async (meters: DoubtedSite["meters"]) => {
    if (!system || !sources) return;
    setChosen(meters);
    setProblem(undefined);
    const site: DoubtedSite = { name: JOBS_WORDS.readsWrong(when(openedAt, "minute")), system, sources, meters };
    const body = JSON.stringify(site);
    const path = `/api/v1/jobs?from=reads-wrong&id=${idFor(body)}`;
    const answer = await callApi("POST", path, madeJobSchema, body).catch(() => undefined);
    if (answer?.kind === "ok") return router.push(`/jobs/${answer.value.id}/prove?step=${FIRST_STEP}`);
    setProblem(answer ? answer.problem : UNREACHABLE);
    setChosen(undefined);
  };

  return (
    <div className="mx-auto max-w-3xl space-y-5 p-4 sm:p-6">
      <header>
        <Link href="/jobs" className="link quiet press inline-flex items-center text-sm">
          {JOBS_WORDS.jobs}
        </Link>
        <h1 className="text-3xl font-bold leading-tight">{JOBS_WORDS.aSiteReadsWrong}</h1>
        <p className="quiet">{JOBS_WORDS.threeAnswersThenTheFirstReading}</p>
      </header>
      <main className="space-y-5">
        <Choice question={JOBS_WORDS.firstTheSupply} options={SUPPLIES} value={system} onValue={setSystem} />
        <Choice
          question={JOBS_WORDS.secondWhatGeneratesOrStores}
          options={SOURCES}
          value={sources}
          onValue={setSources}
          locked={system === undefined}
        />
        <Choice
          question={JOBS_WORDS.thirdWhatIsMeasured}
          options={hasSolar ? METERS : { grid: METERS.grid }}
          value={chosen}
          onValue={(meters) => void make(meters)}
          locked={sources === undefined || chosen !== undefined}
        />
        {chosen !== undefined && <p role="status">{JOBS_WORDS.makingItsSheet}</p>}
        {problem && <ProblemList problem={problem} />}
      </main>
    </div>
  );
}

interface ChoiceProps<T extends string> {
  readonly question: string;
  readonly options: Readonly<Partial<Record<T, string>>>;
  readonly value: T | undefined;
  readonly onValue: (value: T) => void;
  /** Whether a question before it is still open. */
  readonly locked?: boolean;
}

/** One question, each answer a button as wide as a thumb needs. */
function Choice<T extends string>({ question, options, value, onValue, locked = false }: ChoiceProps<T>) {
  return (
    <fieldset disabled={locked} className={locked ? "opacity-60" : ""}>
      <legend className="mb-1 text-lg font-bold">{question}</legend>
      <div className="flex flex-wrap gap-2">
        {(Object.entries(options) as [T, string][]).map(([key, words]) => (
          <button
            key={key}
            type="button"
            className={`btn press h-auto min-h-14 grow basis-36 text-base ${value === key ? "btn-primary" : ""}`}
            aria-pressed={value === key}
            onClick={() => onValue(key)}
          >
            {words}
          </button>
        ))}
      </div>
    </fieldset>
  );
}
