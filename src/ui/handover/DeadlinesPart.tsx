"use client";

import { zodResolver } from "@hookform/resolvers/zod";
import { CalendarPlus, Check, Download } from "lucide-react";
import Link from "next/link";
import { useForm } from "react-hook-form";
import type { z } from "zod";
import { jobDeadlines, type JobDeadline } from "@/core/handover/jobDeadlines";
import { daysLeftText, deadlineSchema, dueDeadlines, type Deadline, type DueDeadline } from "@/core/job/deadline";
import { useWhen } from "@/ui/parts/browser/useWhen";
import { RemoveButton } from "@/ui/parts/form/RemoveButton";
import { useToday } from "@/ui/handover/useToday";
import { StageLink } from "@/ui/workspace/frame/stageMoves";
import { useEditor, useJob } from "@/ui/workspace/workspaceContext";
import { FromServer } from "@/ui/parts/show/FromServer";
import { HANDOVER_WORDS } from "@/ui/words/handoverWords";

const typedSchema = deadlineSchema.pick({ what: true, on: true, lost: true });
type Typed = z.output<typeof typedSchema>;

const FILLED: Readonly<Record<Exclude<JobDeadline["from"], "typed">, { part: string; name: string }>> = {
  registration: { part: "register", name: HANDOVER_WORDS.registration },
  transfer: { part: "transfer", name: HANDOVER_WORDS.transfer },
};

const COLOURS: Readonly<Record<DueDeadline["state"], string>> = {
  late: "font-semibold text-error",
  soon: "font-semibold text-warning",
  later: "",
  done: "text-success",
};

/** What is due by when, with what is lost when it is late; as a calendar file too. */
export function DeadlinesPart() {
  const { id, document } = useJob();
  const editor = useEditor();
  const today = useToday();
  const set = (change: (before: readonly Deadline[]) => Deadline[]) =>
    editor.edit((before) => ({ ...before, deadlines: change(before.deadlines) }));
  const put = (own: JobDeadline, change: Partial<Deadline>) =>
    set((before) => before.map((one) => (one.id === own.id ? { ...one, ...change } : one)));
  // Until it is known which day it is, nothing can be said of how near one is.
  const due = today === "" ? [] : dueDeadlines(jobDeadlines(document), today);
  return (
    <section aria-label={HANDOVER_WORDS.deadlines} className="panel mx-auto max-w-3xl space-y-2 p-3">
      <h3 className="text-lg font-bold">{HANDOVER_WORDS.deadlines}</h3>
      <ul className="space-y-1">
        {due.map((own) => (
          <DeadlineLine
            key={own.id}
            due={own}
            onDone={() => put(own, { doneOn: own.doneOn ? undefined : today })}
            onRemove={() => set((before) => before.filter((one) => one.id !== own.id))}
          />
        ))}
      </ul>
      <DeadlineForm
        onAdd={(typed) => set((before) => [...before, deadlineSchema.parse({ id: crypto.randomUUID(), ...typed })])}
      />
      {due.length > 0 && (
        <FromServer className="btn press" href={`/api/v1/jobs/${id}/deadlines.ics`} download>
          <Download size={18} aria-hidden />
          {HANDOVER_WORDS.asACalendarFile}
        </FromServer>
      )}
      <p className="quiet text-sm">
        {HANDOVER_WORDS.theDeadlinesOfAllJobsStandUnder}
        <Link className="link" href="/deadlines">
          {HANDOVER_WORDS.deadlines}
        </Link>
        .
      </p>
    </section>
  );
}

interface LineProps {
  readonly due: DueDeadline<JobDeadline>;
  readonly onDone: () => void;
  readonly onRemove: () => void;
}

function DeadlineLine({ due: { what, on, lost, state, daysLeft, doneOn, from }, onDone, onRemove }: LineProps) {
  const { id } = useJob();
  const when = useWhen();
  return (
    <li className="flex flex-wrap items-center gap-2 border-b border-base-300 py-1 text-sm">
      <span className="min-w-0 flex-1 basis-48">
        <b>{what}</b>
        <span className={`block ${COLOURS[state]}`}>
          {when(on, "day")}, {doneOn ? HANDOVER_WORDS.done(when(doneOn, "day")) : daysLeftText(daysLeft)}
        </span>
        {lost && !doneOn && <span className="quiet block">{HANDOVER_WORDS.whenItIsLate(lost)}</span>}
      </span>
      {from === "typed" ? (
        <>
          <button type="button" className="btn press" aria-pressed={doneOn !== undefined} onClick={onDone}>
            <Check size={18} aria-hidden />
            {doneOn ? HANDOVER_WORDS.notDone : HANDOVER_WORDS.doneTitle}
          </button>
          <RemoveButton label={HANDOVER_WORDS.remove(what)} onRemove={onRemove} />
        </>
      ) : (
        <StageLink className="btn press" href={`/jobs/${id}/handover?part=${FILLED[from].part}`}>
          {FILLED[from].name}
        </StageLink>
      )}
    </li>
  );
}

function DeadlineForm({ onAdd }: { onAdd: (typed: Typed) => void }) {
  const { register, handleSubmit, reset, formState } = useForm<z.input<typeof typedSchema>, unknown, Typed>({
    resolver: zodResolver(typedSchema),
    defaultValues: { what: "", on: "", lost: "" },
  });
  const { what, on, lost } = formState.errors;
  const problems = [what, on, lost].flatMap((own) => own?.message ?? []);
  const submit = handleSubmit((typed) => {
    onAdd(typed);
    reset();
  });
  return (
    <form className="grid gap-2 text-sm sm:grid-cols-2" noValidate onSubmit={(event) => void submit(event)}>
      <label>
        <span className="mb-0.5 block font-semibold">{HANDOVER_WORDS.whatIsDue}</span>
        <input className="field" aria-invalid={what !== undefined} {...register("what")} />
      </label>
      <label>
        <span className="mb-0.5 block font-semibold">{HANDOVER_WORDS.lastDay}</span>
        <input type="date" className="field" aria-invalid={on !== undefined} {...register("on")} />
      </label>
      <label className="sm:col-span-2">
        <span className="mb-0.5 block font-semibold">{HANDOVER_WORDS.whatIsLostWhenItIsLateOptional}</span>
        <input className="field" aria-invalid={lost !== undefined} {...register("lost")} />
      </label>
      {problems.length > 0 && (
        <p role="alert" className="font-semibold text-error sm:col-span-2">
          {problems.join("; ")}
        </p>
      )}
      <button type="submit" className="btn press w-fit">
        <CalendarPlus size={18} aria-hidden />
        {HANDOVER_WORDS.addADeadline}
      </button>
    </form>
  );
}
