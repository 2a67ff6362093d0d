"use client";

import { MapPin, Play, TriangleAlert } from "lucide-react";
import { filledContent } from "@/core/visit/filledContent";
import { logTextSchema } from "@/core/visit/visitEntry";
import { isOver, openGates, openGatesText, stateOf, type StepState } from "@/core/visit/visitState";
import { PHASE_WORDS, waitText, type VisitStep } from "@/core/visit/visitStep";
import { TextForm } from "@/ui/parts/form/TextForm";
import { KeptPhoto } from "@/ui/visit/KeptPhoto";
import { useSay } from "@/ui/parts/browser/useNumberStyle";
import { useWhen } from "@/ui/parts/browser/useWhen";
import { PhotoButton } from "@/ui/visit/PhotoButton";
import { StatusMark } from "@/ui/visit/StatusMark";
import { StepEvidence } from "@/ui/visit/StepEvidence";
import type { VisitDesk } from "@/ui/visit/useVisitStage";
import { VISIT_WORDS } from "@/ui/words/visitWords";

/** Longer than this a content is a sentence, not a value that is read digit by digit. */
const LONGEST_READING = 48;

interface Props {
  readonly desk: VisitDesk;
  readonly step: VisitStep;
  readonly number: number;
  readonly onOver: () => void;
}

/**
 * One step as it is read at arm's length: what, where, why, the values, the caution, and what shows that it is done.
 */
export function StepCard({ desk, step, number, onOver }: Props) {
  const { sheet, state, person, start } = desk;
  const own = stateOf(state, step.id);
  const gates = openGates(sheet, state, step);
  const isBlocked = gates.length > 0 || person === "";
  return (
    <article aria-label={step.title} data-step={step.id} className="panel space-y-3 p-4">
      <p className="flex flex-wrap items-center gap-x-3 text-sm">
        <span className="quiet">{VISIT_WORDS.of(number, sheet.steps.length, PHASE_WORDS[step.stage])}</span>
        <StatusMark state={own} />
        {step.isGate && (
          <span className="rounded border-2 border-warning px-1.5 font-bold">{VISIT_WORDS.safetyGate}</span>
        )}
      </p>
      <h3 className="text-2xl font-bold leading-tight">{step.title}</h3>
      <StepPlace desk={desk} step={step} />
      <p className="text-lg leading-snug">{step.why}.</p>
      {step.caution && <p className="caution text-base">{step.caution}</p>}
      <StepContent content={filledContent(sheet, state, step).filter(({ label }) => !isAskedFor(step, label))} />
      {step.school && (
        <p className="text-sm">
          {step.school.question}: <b>{step.school.active}</b>{" "}
          {VISIT_WORDS.theOtherMethodChangeItUnderSheet(step.school.why, step.school.other)}
        </p>
      )}
      <BeforeIt desk={desk} step={step} gates={gates} />
      {own.status === "stopped" && own.entry?.kind === "result" && <OutsideLimits lines={own.entry.outside} />}
      <LookAgain step={step} own={own} />
      {step.waiting && own.status === "open" && (
        <button
          type="button"
          data-begins
          className="btn btn-primary press h-14 w-full scroll-mb-32 text-lg"
          disabled={isBlocked}
          onClick={() => start(step)}
        >
          <Play size={20} aria-hidden />
          {VISIT_WORDS.start(step.waiting.label)}
        </button>
      )}
      <StepEvidence desk={desk} step={step} isBlocked={isBlocked} onOver={onOver} />
      <PhotosAndNotes desk={desk} step={step} />
      <p className="quiet text-sm">{step.source}</p>
    </article>
  );
}

/** Whether a line stands in the evidence already, beside where its answer is typed: nobody reads it twice. */
function isAskedFor({ evidence }: VisitStep, label: string): boolean {
  if (evidence.kind === "values")
    return evidence.fields.some((field) => field.expected !== undefined && field.label === label);
  return evidence.kind === "read-back" && evidence.fields.some((field) => field.label === label);
}

/** What was seen is neither good nor bad yet: when to look again, and what to do if it stays. */
function LookAgain({ step, own }: { step: VisitStep; own: StepState }) {
  const say = useSay();
  const { evidence } = step;
  if (own.status !== "waiting" || own.entry?.kind !== "result" || evidence.kind !== "choice") return null;
  const { choice } = own.entry;
  const option = evidence.options.find(({ id }) => id === choice);
  if (!option) return null;
  return (
    <p role="status" className="note-pattern rounded p-3 text-lg">
      {VISIT_WORDS.itShowedLookAgainAfterMinAtMost(option.label, say(String(option.waitMin ?? 0)))}{" "}
      {option.next && VISIT_WORDS.ifItStays(option.next)}
    </p>
  );
}

type StepProps = Pick<Props, "desk" | "step">;

function StepPlace({ desk, step }: StepProps) {
  return (
    <p className="inline-flex items-center gap-1 text-lg">
      <MapPin size={20} aria-hidden />
      <span>
        {desk.placeName(step.place)}
        <span className="quiet text-base">
          {VISIT_WORDS.min2(step.activeMin, step.waitMin > 0 ? VISIT_WORDS.andUnattended(waitText(step)) : "")}
        </span>
      </span>
    </p>
  );
}

/** What is typed, set or measured in it, each with its label. */
function StepContent({ content }: Pick<VisitStep, "content">) {
  const say = useSay();
  if (content.length === 0) return null;
  return (
    <dl className="grid gap-x-4 text-lg leading-snug sm:grid-cols-[auto_1fr] sm:gap-y-1">
      {content.map(({ label, value }, at) => (
        <div key={at} className="contents">
          <dt className="font-semibold">{label}</dt>
          <dd
            className={
              `${value.length <= LONGEST_READING ? "reading" : ""} min-w-0 break-words ` +
              "whitespace-normal max-sm:mb-1"
            }
          >
            {say(value)}
          </dd>
        </div>
      ))}
    </dl>
  );
}

/** What comes first: safety gates, behind which nothing is recorded, or steps that usually do. */
function BeforeIt({ desk: { sheet, state }, step, gates }: StepProps & { readonly gates: readonly VisitStep[] }) {
  if (gates.length > 0)
    return (
      <p role="alert" className="flex gap-2 rounded border-2 border-error p-2 font-semibold">
        <TriangleAlert size={20} aria-hidden className="flex-none" />
        {VISIT_WORDS.firstNothingBehindASafetyGate(openGatesText(gates))}
      </p>
    );
  const open = step.needs.flatMap(({ step: id }) => {
    const before = sheet.steps.find((other) => other.id === id);
    return before && !isOver(stateOf(state, id)) ? [before] : [];
  });
  return open.length > 0 && <p className="text-sm">{VISIT_WORDS.usuallyFirst(openGatesText(open))}</p>;
}

function OutsideLimits({ lines }: { readonly lines: readonly string[] }) {
  const say = useSay();
  return (
    <div role="alert" className="rounded border-2 border-error p-2">
      <b>{VISIT_WORDS.outsideItsLimitsStopHere}</b>
      {lines.map((line) => (
        <p key={line}>{say(line)}</p>
      ))}
    </div>
  );
}

function PhotosAndNotes({ desk, step }: StepProps) {
  const { entries, jobId, person, photo, note } = desk;
  const when = useWhen();
  const photos = entries.flatMap((entry) => (entry.kind === "photo" && entry.step === step.id ? [entry] : []));
  const notes = entries.flatMap((entry) => (entry.kind === "note" && entry.step === step.id ? [entry] : []));
  const isDisabled = person === "";
  return (
    <div className="flex flex-wrap items-center gap-3">
      <PhotoButton
        label={step.wantsPhoto && photos.length === 0 ? VISIT_WORDS.photoWanted : VISIT_WORDS.photo}
        isDisabled={isDisabled}
        onPhoto={(file) => photo(file, "", step.id)}
      />
      {photos.length > 0 && <span className="text-sm">{VISIT_WORDS.photos(photos.length)}</span>}
      {photos.map((entry) => (
        <KeptPhoto key={entry.id} jobId={jobId} photo={entry.photo} words={VISIT_WORDS.photoOf(step.title)} />
      ))}
      {notes.length > 0 && (
        <ul aria-label={VISIT_WORDS.notesOnThisStep} className="basis-full border-l-4 border-base-300 pl-2">
          {notes.map((entry) => (
            <li key={entry.id} className="break-words">
              “{entry.text}” <span className="quiet text-sm">{`${entry.person}, ${when(entry.at, "clock")}`}</span>
            </li>
          ))}
        </ul>
      )}
      <TextForm
        label={VISIT_WORDS.noteOnThisStep}
        schema={logTextSchema}
        send={VISIT_WORDS.saveNote}
        isDisabled={isDisabled}
        onSend={(text) => note(text, step.id)}
      />
    </div>
  );
}
