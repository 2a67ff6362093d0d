"use client";

import { ArrowLeft, CalendarPlus } from "lucide-react";
import Link from "next/link";
import type { ListedDeadline } from "@/core/handover/allDeadlines";
import { daysLeftText, dueDeadlines, type DueDeadline } from "@/core/job/deadline";
import { useToday } from "@/ui/handover/useToday";
import { useWhen } from "@/ui/parts/browser/useWhen";
import { PrivateLinkPart } from "@/ui/parts/server/PrivateLinkPart";
import { JOBS_WORDS } from "@/ui/words/jobsWords";

const COLOURS: Readonly<Record<DueDeadline["state"], string>> = {
  late: "text-error",
  soon: "text-warning",
  later: "",
  done: "text-success",
};
const PARTS: Readonly<Record<ListedDeadline["from"], string>> = {
  typed: "deadlines",
  registration: "register",
  transfer: "transfer",
};

/** What is due in all jobs, the nearest first, and the calendar of it. */
export function DeadlinesPage({ deadlines, today }: { deadlines: readonly ListedDeadline[]; today: string }) {
  const due = dueDeadlines(deadlines, useToday(today));
  return (
    <div className="mx-auto max-w-4xl p-4 sm:p-6">
      <header className="flex flex-wrap items-center gap-3">
        <Link className="btn btn-ghost press" href="/jobs">
          <ArrowLeft size={18} aria-hidden />
          {JOBS_WORDS.jobs}
        </Link>
        <h1 className="text-3xl font-bold">{JOBS_WORDS.deadlines}</h1>
      </header>
      <main className="mt-4 space-y-4">
        {due.length === 0 ? (
          <p className="panel p-4">{JOBS_WORDS.nothingIsDueDeadlinesCome}</p>
        ) : (
          <ul className="panel divide-y divide-base-300">
            {due.map((own) => (
              <li key={`${own.jobId} ${own.id}`}>
                <DeadlineLink due={own} />
              </li>
            ))}
          </ul>
        )}
        <CalendarPart />
      </main>
    </div>
  );
}

function DeadlineLink({
  due: { what, on, lost, state, daysLeft, job, jobId, from },
}: {
  due: DueDeadline<ListedDeadline>;
}) {
  const when = useWhen();
  return (
    <Link className="press flex flex-wrap gap-x-3 p-3" href={`/jobs/${jobId}/handover?part=${PARTS[from]}`}>
      <span className="min-w-0 flex-1 basis-64">
        <b>{what}</b>
        <span className="quiet block text-sm">{job}</span>
        {lost !== "" && <span className="quiet block text-sm">{JOBS_WORDS.whenItIsLate(lost)}</span>}
      </span>
      <span className={`font-semibold ${COLOURS[state]}`}>
        {when(on, "day")}, {daysLeftText(daysLeft)}
      </span>
    </Link>
  );
}

/** A link that a calendar program asks again and again; told once. */
function CalendarPart() {
  return (
    <section aria-label={JOBS_WORDS.calendar} className="panel space-y-2 p-3">
      <h2 className="text-lg font-bold">{JOBS_WORDS.inYourCalendar}</h2>
      <p className="text-sm">{JOBS_WORDS.aPrivateLinkForTheCalendarProgram}</p>
      <PrivateLinkPart
        path="/api/v1/calendar-link"
        Icon={CalendarPlus}
        makes={JOBS_WORDS.makeTheCalendarsLink}
        warning={JOBS_WORDS.toldOnceWhoeverHasItReadsWhatIsDue}
      />
    </section>
  );
}
