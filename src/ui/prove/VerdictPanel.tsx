"use client";

import { CircleCheck, CircleHelp, ClipboardPen, Glasses, OctagonX, Scale, Wrench, type LucideIcon } from "lucide-react";
import { useSaid } from "@/ui/parts/browser/useNumberStyle";
import { saidCure, saidFault, saidFaults } from "@/core/flows/cure";
import { fittingWith, type Diagnosis, type Hypothesis, type Verdict } from "@/core/flows/diagnose";
import { isAllSeen } from "@/core/flows/editSheet";
import { siteWithFitting } from "@/core/flows/fitting";
import type { Doubt } from "@/core/flows/doubt";
import { inputTag } from "@/core/site/inputTag";
import { powerText } from "@/core/units";
import { Say } from "@/ui/parts/show/Say";
import { percent } from "@/core/job/proveFindings";
import type { Site } from "@/core/site/planSchema";
import { BoardSketch } from "@/ui/board/BoardSketch";
import { faultTags } from "@/ui/prove/faultTags";
import { NextTests } from "@/ui/prove/NextTests";
import type { ProveDesk } from "@/ui/prove/useProve";
import { useJob, useVerdict } from "@/ui/workspace/workspaceContext";
import { PROVE_WORDS } from "@/ui/words/proveWords";

const MOST_CONTENDERS = 4;

const LOOK: Readonly<
  Record<Verdict | "unread" | "weighing", { Icon: LucideIcon; words: string; colour: string; pattern: string }>
> = {
  "as-planned": { Icon: CircleCheck, words: PROVE_WORDS.asPlanned, colour: "text-success", pattern: "" },
  "faults-found": { Icon: Wrench, words: PROVE_WORDS.faultsFound, colour: "text-warning", pattern: "fix-pattern" },
  ambiguous: { Icon: CircleHelp, words: PROVE_WORDS.notCertainYet, colour: "text-info", pattern: "note-pattern" },
  "reading-doubtful": { Icon: Glasses, words: PROVE_WORDS.readItAgain, colour: "text-info", pattern: "note-pattern" },
  "not-explained": { Icon: OctagonX, words: PROVE_WORDS.notExplained, colour: "text-error", pattern: "stop-pattern" },
  unread: { Icon: ClipboardPen, words: PROVE_WORDS.nothingReadYet, colour: "text-info", pattern: "note-pattern" },
  weighing: { Icon: Scale, words: PROVE_WORDS.weighingTheExplanations, colour: "text-info", pattern: "note-pattern" },
};

/** The verdict with its cure and its picture, and what to switch on next. */
export function VerdictPanel({ prove }: { prove: ProveDesk }) {
  const { diagnosis: last, running, isOutdated } = useVerdict();
  const { site, hasReadings } = prove;
  const diagnosis = hasReadings ? last : undefined;
  const faults = diagnosis?.verdict === "faults-found" ? diagnosis.hypotheses[0]?.faults : undefined;
  return (
    <section
      aria-label={PROVE_WORDS.verdict}
      aria-busy={running !== undefined || isOutdated}
      className="panel grid gap-4 p-4 lg:grid-cols-[minmax(0,1.15fr)_minmax(0,1fr)]"
    >
      <div className="min-w-0 space-y-2">
        <VerdictHead diagnosis={diagnosis} hasReadings={hasReadings} />
        {!isAllSeen(prove.sheet) && (
          <p className="caution font-semibold">{PROVE_WORDS.someReadingsAreSimulatedFromTheCTs}</p>
        )}
        <WeighingLine />
        {diagnosis && <VerdictText verdict={diagnosis.verdict} />}
        {diagnosis?.doubt && <DoubtText site={site} doubt={diagnosis.doubt} />}
        {diagnosis?.verdict === "ambiguous" && (
          <Contenders site={site} hypotheses={diagnosis.hypotheses.slice(0, MOST_CONTENDERS)} />
        )}
        {faults && <Cures site={site} faults={faults} onDone={() => prove.cure(faults)} />}
        {!hasReadings && <p>{PROVE_WORDS.doTheFirstStepReadEveryMeter}</p>}
      </div>
      <div className="min-w-0 space-y-3">
        {faults && <AsFitted site={site} faults={faults} />}
        {last && <NextTests prove={prove} tests={last.nextTests} isDoubt={last.doubt !== undefined} />}
        {diagnosis?.verdict === "as-planned" && (
          <p>{PROVE_WORDS.everyInputReadsTheRightSize(prove.sheet.maxFaults, diagnosis.scored.toLocaleString("en"))}</p>
        )}
      </div>
    </section>
  );
}

interface HeadProps {
  readonly diagnosis: Diagnosis | undefined;
  readonly hasReadings: boolean;
}

/** The verdict in a word, with how probable it is where one explanation is left. */
function VerdictHead({ diagnosis, hasReadings }: HeadProps) {
  const { Icon, words, colour, pattern } = LOOK[!hasReadings ? "unread" : (diagnosis?.verdict ?? "weighing")];
  const isDecided = diagnosis?.verdict === "as-planned" || diagnosis?.verdict === "faults-found";
  const best = isDecided ? diagnosis.hypotheses[0] : undefined;
  return (
    <p className={`flex items-center gap-2 text-2xl font-bold ${colour}`}>
      <span className={`inline-block h-7 w-2 rounded-sm ${pattern}`} aria-hidden />
      <Icon size={28} aria-hidden />
      {words}
      {best && <span className="reading ml-auto text-lg">{percent(best.probability)}</span>}
    </p>
  );
}

/** What the weighing is at, with its stop, or why there is none. */
function WeighingLine() {
  const { running, message, cancel } = useVerdict();
  return (
    <>
      {message && (
        <p role="alert" className="font-semibold text-error">
          {message}
        </p>
      )}
      {running && (
        <p className="flex items-center gap-2 text-sm">
          <progress className="progress w-40" value={running.done} max={running.of} />
          {PROVE_WORDS.lookingAtExplanations(running.of.toLocaleString("en"))}
          <button type="button" className="btn btn-sm press" onClick={cancel}>
            {PROVE_WORDS.stop}
          </button>
        </p>
      )}
    </>
  );
}

interface FaultsProps {
  readonly site: Site;
  readonly faults: Hypothesis["faults"];
}

function Cures({ site, faults, onDone }: FaultsProps & { readonly onDone: () => void }) {
  const said = useSaid();
  return (
    <>
      <ol className="space-y-1">
        {faults.map((fault, at) => (
          <li key={at}>
            <p>{said(saidFault(site, fault))}.</p>
            <p className="text-lg font-bold text-primary">{said(saidCure(site, fault))}.</p>
          </li>
        ))}
      </ol>
      <p className="caution">{PROVE_WORDS.isolateAndProveDeadBeforeYouOpen}</p>
      <button type="button" className="btn btn-primary press" onClick={onDone}>
        {PROVE_WORDS.itIsPutRightReadAgain}
      </button>
    </>
  );
}

/** The board with the CTs as they look to be fitted. */
function AsFitted({ site, faults }: FaultsProps) {
  const said = useSaid();
  const { document } = useJob();
  return (
    <figure>
      <BoardSketch
        site={siteWithFitting(site, fittingWith(site, faults))}
        scheme={document.job.colourScheme}
        marked={faultTags(site, faults)}
        label={PROVE_WORDS.asItLooksToBeFitted(said(saidFaults(site, faults)))}
      />
      <figcaption className="quiet mt-1 text-sm">{PROVE_WORDS.asItLooksToBeFittedTheCTs}</figcaption>
    </figure>
  );
}

/** The likeliest explanations of an open case, each with its probability as a number and a bar. */
function Contenders({ site, hypotheses }: { site: Site; hypotheses: readonly Hypothesis[] }) {
  const said = useSaid();
  return (
    <ol className="space-y-1.5">
      {hypotheses.map(({ probability, faults }, at) => (
        <li key={at} className="grid grid-cols-[5.5rem_1fr] items-baseline gap-2">
          <span className="reading text-right font-semibold">{percent(probability)}</span>
          <span className="leading-snug">
            {said(saidFaults(site, faults))}
            <span className="mt-0.5 block h-1.5 rounded-sm bg-base-300" aria-hidden>
              <span className="block h-full rounded-sm bg-secondary" style={{ width: `${100 * probability}%` }} />
            </span>
          </span>
        </li>
      ))}
    </ol>
  );
}

function VerdictText({ verdict }: { verdict: Verdict }) {
  switch (verdict) {
    case "ambiguous":
      return <p>{PROVE_WORDS.moreThanOneExplanationFits}</p>;
    case "not-explained":
      return <p>{PROVE_WORDS.noCombinationOfFaultsMakesThese}</p>;
    case "reading-doubtful":
      return <p>{PROVE_WORDS.oneOddReadingExplainsTheSheet}</p>;
    case "as-planned":
    case "faults-found":
      return null;
  }
}

const MOST_DOUBTFUL = 4;

/** What is odd, in words and numbers, and what is left of faults with it. */
function DoubtText({ site, doubt }: { site: Site; doubt: Doubt }) {
  const said = useSaid();
  return (
    <div className="space-y-1">
      <p className="text-lg font-semibold">
        <Say>{`${doubt.why}.`}</Say>
      </p>
      {doubt.kind !== "reading" && doubt.readings.length <= MOST_DOUBTFUL && (
        <ul className="text-sm">
          {doubt.readings.map(({ meter, input, powerW, wouldBeW }) => (
            <li key={`${meter} ${input}`}>
              {PROVE_WORDS.showsOf(inputTag(site, meter, input))}
              <span className="reading">
                <Say>{powerText(powerW)}</Say>
              </span>
              {PROVE_WORDS.wouldBeAbout}
              <span className="reading">
                <Say>{powerText(wouldBeW)}</Say>
              </span>
            </li>
          ))}
        </ul>
      )}
      {doubt.faults.length > 0 && (
        <p className="text-sm">{PROVE_WORDS.leftWithIt(said(saidFaults(site, doubt.faults)))}</p>
      )}
    </div>
  );
}
