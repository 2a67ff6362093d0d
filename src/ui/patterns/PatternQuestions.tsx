"use client";

import { useRouter } from "next/navigation";
import { useMemo, useState } from "react";
import { madeJobSchema } from "@/core/answers/jobAnswers";
import { countFindings } from "@/core/findings";
import { jobNameSchema } from "@/core/job/jobDocument";
import { resolve } from "@/core/plan/resolve";
import { planFindings } from "@/core/job/planFindings";
import type { Kit } from "@/core/kits/kitSchema";
import { lengthInM, lengthShown, lengthsOfSupply } from "@/core/numberStyle";
import { isAskedAbout, patternAnswersSchema, usualAnswers, type PatternAnswers } from "@/core/patterns/patternAnswers";
import type { Pattern } from "@/core/patterns/patternSchema";
import { planFromPattern, type PatternOutcome } from "@/core/patterns/planFromPattern";
import { phasesOfSupply } from "@/core/site/phasors";
import type { Phase } from "@/core/phase";
import { withoutEmpty } from "@/core/withoutEmpty";
import { CheckField } from "@/ui/parts/form/CheckField";
import { BoardSketch } from "@/ui/board/BoardSketch";
import { callApi, UNREACHABLE, type ApiProblem } from "@/ui/parts/server/apiClient";
import { FindingLine } from "@/ui/parts/show/FindingLine";
import { FindingMark } from "@/ui/parts/show/FindingMark";
import { goToRed } from "@/ui/parts/form/redField";
import { NumberField } from "@/ui/parts/form/NumberField";
import { ProblemList } from "@/ui/parts/show/ProblemList";
import { SelectField } from "@/ui/parts/form/SelectField";
import { TextField } from "@/ui/parts/form/TextField";
import { LengthsHere, useNumberStyle } from "@/ui/parts/browser/useNumberStyle";
import { useRepeatableId } from "@/ui/parts/server/useRepeatableId";
import { PATTERNS_WORDS } from "@/ui/words/patternsWords";

const SYSTEMS = {
  "single-phase": PATTERNS_WORDS.singlePhaseL1N,
  "split-phase": PATTERNS_WORDS.splitPhaseL1L2N,
  "three-phase": PATTERNS_WORDS.threePhaseL1L2L3N,
} as const;
const PREVIEW_PX = 430;
const NOTHING: ReadonlySet<string> = new Set();

/** The few questions of a pattern, with the board that comes of the answers beside them. */
export function PatternQuestions({ pattern, kits }: { pattern: Pattern; kits: readonly Kit[] }) {
  const { idFor } = useRepeatableId();
  const router = useRouter();
  const [answers, setAnswers] = useState<PatternAnswers>(() => usualAnswers(pattern));
  const [problem, setProblem] = useState<ApiProblem | undefined>();
  const [busy, setBusy] = useState(false);
  const outcome = useMemo(() => planFromPattern(pattern, answers, kits), [pattern, answers, kits]);
  const change = (part: Partial<PatternAnswers>) => setAnswers((before) => ({ ...before, ...part }));

  const make = async () => {
    setBusy(true);
    const answer = await callApi(
      "POST",
      `/api/v1/jobs?from=pattern&id=${idFor(JSON.stringify(answers))}`,
      madeJobSchema,
      JSON.stringify(answers),
    ).catch(() => undefined);
    setBusy(false);
    if (answer?.kind === "ok") router.push(`/jobs/${answer.value.id}/plan`);
    else setProblem(answer ? answer.problem : UNREACHABLE);
  };

  return (
    <div className="grid gap-5 lg:grid-cols-[minmax(0,30rem)_minmax(0,1fr)]">
      <form
        className="space-y-5"
        aria-label={PATTERNS_WORDS.questions}
        onSubmit={(event) => {
          event.preventDefault();
          if (!goToRed(event.currentTarget)) void make();
        }}
      >
        <p className="leading-snug">{pattern.summary}</p>
        <JobAndSupplyFields answers={answers} change={change} pattern={pattern} />
        <DeviceQuestions pattern={pattern} answers={answers} onChange={change} />
        <LengthsHere.Provider value={lengthsOfSupply(answers.system)}>
          <WayQuestions pattern={pattern} answers={answers} onChange={change} />
        </LengthsHere.Provider>
        {problem && <ProblemList problem={problem} />}
        <div className="sticky bottom-0 bg-base-100 py-3">
          <button type="submit" className="btn btn-primary press w-full" disabled={busy || outcome.kind !== "job"}>
            {PATTERNS_WORDS.makeThePlan}
          </button>
        </div>
      </form>
      <PlanOfAnswers outcome={outcome} pattern={pattern} />
    </div>
  );
}

function JobAndSupplyFields({
  answers,
  change,
  pattern,
}: {
  answers: PatternAnswers;
  change: (part: Partial<PatternAnswers>) => void;
  pattern: Pattern;
}) {
  return (
    <div className="grid grid-cols-2 gap-3">
      <TextField
        label={PATTERNS_WORDS.nameOfTheJob}
        value={answers.name}
        schema={jobNameSchema}
        onValue={(name) => change({ name })}
      />
      <TextField
        label={PATTERNS_WORDS.place}
        value={answers.place}
        schema={patternAnswersSchema.shape.place.unwrap()}
        onValue={(place) => change({ place })}
      />
      <SelectField
        label={PATTERNS_WORDS.supply}
        value={answers.system}
        options={pattern.supply.systems.map((system) => ({ value: system, label: SYSTEMS[system] }))}
        onValue={(system) => change({ system: patternAnswersSchema.shape.system.parse(system) })}
      />
      <NumberField
        label={PATTERNS_WORDS.mainFuse}
        unit="A"
        value={answers.mainFuseA}
        most={5000}
        onValue={(mainFuseA) => mainFuseA !== undefined && change({ mainFuseA })}
      />
    </div>
  );
}

function PlanOfAnswers({ outcome, pattern }: { outcome: PatternOutcome; pattern: Pattern }) {
  return (
    <section
      aria-label={PATTERNS_WORDS.thePlanThatComesOfIt}
      className="min-w-0 space-y-3 self-start max-lg:order-first lg:sticky lg:top-4"
    >
      {outcome.kind === "job" ? (
        <Preview outcome={outcome} />
      ) : (
        <ProblemList
          problem={{
            message: PATTERNS_WORDS.noPlanComesOfTheseAnswersYet,
            issues: outcome.problems.map((issue) => ({ path: issue.path.join("."), message: issue.message })),
          }}
        />
      )}
      {pattern.watch.length > 0 && (
        <div>
          <h2 className="font-bold">{PATTERNS_WORDS.onSuchASite}</h2>
          <ul className="list-disc space-y-1 pl-5">
            {pattern.watch.map((line) => (
              <li key={line}>{line}</li>
            ))}
          </ul>
        </div>
      )}
    </section>
  );
}

function Preview({ outcome }: { outcome: Extract<ReturnType<typeof planFromPattern>, { kind: "job" }> }) {
  const { document } = outcome;
  const findings = useMemo(() => planFindings(resolve(document)), [document]);
  const counts = countFindings(findings);
  const levels = (["stop", "fix", "note"] as const).filter((level) => counts[level] > 0);
  return (
    <>
      <BoardSketch
        site={document.site}
        scheme={document.job.colourScheme}
        marked={NOTHING}
        label={PATTERNS_WORDS.railBoardOfThePlan}
        fitHeight={PREVIEW_PX}
      />
      <p className="flex flex-wrap gap-3 text-sm">
        <span>
          {PATTERNS_WORDS.inputsWithTheirCTsKits(
            document.site.meters.reduce((sum, meter) => sum + meter.inputs.length, 0),
            document.kits.length,
          )}
        </span>
        {levels.map((level) => (
          <FindingMark key={level} level={level} count={counts[level]} />
        ))}
      </p>
      {findings
        .filter((finding) => finding.severity !== "note")
        .map((finding) => (
          <FindingLine key={finding.id} finding={finding} />
        ))}
    </>
  );
}

interface PartProps {
  readonly pattern: Pattern;
  readonly answers: PatternAnswers;
  readonly onChange: (part: Partial<PatternAnswers>) => void;
}

function DeviceQuestions({ pattern, answers, onChange }: PartProps) {
  const phases = phasesOfSupply({ system: answers.system, voltageV: 230, frequencyHz: 50, rotation: "L1-L2-L3" });
  const asked = pattern.nodes.filter(isAskedAbout);
  const set = (id: string, part: Partial<PatternAnswers["devices"][number]>) =>
    onChange({ devices: answers.devices.map((device) => (device.id === id ? { ...device, ...part } : device)) });
  return (
    <fieldset className="space-y-2">
      <legend className="font-bold">{PATTERNS_WORDS.whatIsOnTheSite}</legend>
      {asked.map((node) => {
        const answer = answers.devices.find((device) => device.id === node.id);
        if (!answer) return null;
        return (
          <div key={node.id} className="panel grid grid-cols-[1fr_auto] items-center gap-x-3 px-2 py-1">
            <span className={`font-semibold ${answer.present ? "" : "line-through"}`}>{node.name}</span>
            <span className="flex gap-3 text-sm">
              {node.optional && (
                <Tick
                  label={PATTERNS_WORDS.onSite}
                  checked={answer.present}
                  onChange={(present) => set(node.id, { present })}
                />
              )}
              <Tick
                label={PATTERNS_WORDS.alreadyThere}
                checked={answer.existing}
                onChange={(existing) => set(node.id, { existing })}
              />
            </span>
            {answer.present && (answer.ratedW !== undefined || (node.phases === "one" && phases.length > 1)) && (
              <span className="col-span-2 grid grid-cols-2 gap-3 pb-1">
                {answer.ratedW !== undefined && (
                  <NumberField
                    label={PATTERNS_WORDS.rating}
                    about={node.name}
                    unit="kW"
                    value={answer.ratedW / 1000}
                    most={10_000}
                    onValue={(kw) => kw !== undefined && set(node.id, { ratedW: Math.round(kw * 1e6) / 1e3 })}
                  />
                )}
                {node.phases === "one" && phases.length > 1 && (
                  <SelectField
                    label={PATTERNS_WORDS.phaseOf(node.name)}
                    value={answer.phase ?? "L1"}
                    options={phases.map((phase) => ({ value: phase, label: phase }))}
                    onValue={(phase) => set(node.id, { phase: phase as Phase })}
                  />
                )}
              </span>
            )}
          </div>
        );
      })}
    </fieldset>
  );
}

function WayQuestions({ pattern, answers, onChange }: PartProps) {
  const style = useNumberStyle();
  const unit = style.lengths === "us" ? "ft" : "m";
  const nameOf = (id: string) => pattern.places.find((place) => place.id === id)?.name ?? id;
  const set = (at: number, part: Partial<PatternAnswers["ways"][number]>) =>
    onChange({ ways: answers.ways.map((way, which) => (which === at ? withoutEmpty({ ...way, ...part }) : way)) });
  if (answers.ways.length === 0) return null;
  return (
    <fieldset className="space-y-2">
      <legend className="font-bold">{PATTERNS_WORDS.howFarIsIt}</legend>
      {answers.ways.map((way, at) => (
        <div key={`${way.from} ${way.to}`} className="grid grid-cols-2 items-start gap-3">
          <p className="col-span-2 text-sm font-semibold">{PATTERNS_WORDS.to(nameOf(way.from), nameOf(way.to))}</p>
          <NumberField
            label={PATTERNS_WORDS.cable}
            unit={unit}
            optional
            hint={PATTERNS_WORDS.emptyWhereNoneCanBeLaid}
            value={way.cableM === undefined ? undefined : lengthShown(way.cableM, style)}
            most={10_000}
            onValue={(value) =>
              set(at, { cableM: value === undefined || value === 0 ? undefined : lengthInM(value, style) })
            }
          />
          <NumberField
            label={PATTERNS_WORDS.walk}
            unit="min"
            optional
            value={way.walkMin}
            most={600}
            onValue={(walkMin) => walkMin !== undefined && set(at, { walkMin })}
          />
        </div>
      ))}
    </fieldset>
  );
}

function Tick({ label, checked, onChange }: { label: string; checked: boolean; onChange: (checked: boolean) => void }) {
  return (
    <CheckField checked={checked} onCheck={(isChecked) => onChange(isChecked)}>
      {label}
    </CheckField>
  );
}
