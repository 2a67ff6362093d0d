"use client";

import { z } from "zod";
import {
  Archive,
  ArchiveRestore,
  CalendarClock,
  CircleHelp,
  Copy,
  Download,
  FilePlus2,
  FolderOpen,
  LayoutTemplate,
  Library,
  Trash2,
  Undo2,
  Upload,
} from "lucide-react";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useState } from "react";
import { reminderLine, type ListedDeadline } from "@/core/handover/allDeadlines";
import { daysLeftText, dueDeadlines } from "@/core/job/deadline";
import { useToday } from "@/ui/handover/useToday";
import { ImportJob } from "@/ui/jobs/ImportJob";
import { TakeAlong } from "@/ui/jobs/TakeAlong";
import { NewJobForm } from "@/ui/jobs/NewJobForm";
import { ALL_JOBS, JobTable, type ShownJobs, type JobRow, type ShownSearch } from "@/ui/jobs/JobTable";
import { callApi, UNREACHABLE, type ApiProblem } from "@/ui/parts/server/apiClient";
import { GormitMark } from "@/ui/parts/show/GormitMark";
import { ProblemList } from "@/ui/parts/show/ProblemList";
import { useRepeatableId } from "@/ui/parts/server/useRepeatableId";
import { ThemeSwitch } from "@/ui/parts/browser/ThemeSwitch";
import { JOBS_WORDS } from "@/ui/words/jobsWords";

interface Props {
  readonly found: ShownJobs;
  readonly search: ShownSearch;
  readonly deadlines: readonly ListedDeadline[];
  /** The server's day. */
  readonly today: string;
}

/** All jobs, and everything that can be done with one as a whole. */
export function JobsPage({ found, search, deadlines, today }: Props) {
  const router = useRouter();
  const [open, setOpen] = useState<"new" | "import" | undefined>();
  const { problem, gone, duplicate, put, undo } = useJobMoves();
  const look = (next: ShownSearch) => router.replace(addressOf(next), { scroll: false });
  const isBare = found.total === 0 && addressOf({ ...search, page: 1 }) === addressOf({ ...search, ...ALL_JOBS });

  return (
    <div className="mx-auto max-w-7xl p-4 sm:p-6">
      <JobsHeader open={open} setOpen={setOpen} />
      <main className="mt-4 space-y-4">
        <Reminder deadlines={deadlines} today={today} />
        {open === "new" && <NewJobForm onClose={() => setOpen(undefined)} />}
        {open === "import" && <ImportJob onClose={() => setOpen(undefined)} />}
        {problem && <ProblemList problem={problem} />}
        {gone.map((one) => (
          <GoneJob key={one.job.id} gone={one} undo={undo} />
        ))}
        {isBare ? (
          <FirstSteps hasPlaces={found.places.length > 0} onArchive={() => look({ ...search, shelf: "archived" })} />
        ) : (
          <JobTable
            found={found}
            search={search}
            onSearch={look}
            actions={(job) => <JobActions job={job} shelf={search.shelf} duplicate={duplicate} put={put} />}
          />
        )}
      </main>
    </div>
  );
}

function addressOf({ search, shelf, state, place, due, sort, order, page }: ShownSearch): string {
  const query = new URLSearchParams({
    ...(search === "" ? {} : { search }),
    ...(shelf === "open" ? {} : { shelf }),
    ...(state && { state }),
    ...(place && { place }),
    ...(due && { due }),
    ...(sort === "changed" && order === "down" ? {} : { sort, order }),
    ...(page === 1 ? {} : { page: String(page) }),
  });
  return query.size === 0 ? "/jobs" : `/jobs?${query}`;
}

/** What is done with a job as a whole, and how each that left the list comes back. */
function useJobMoves() {
  const router = useRouter();
  const { idFor, done } = useRepeatableId();
  const [gone, setGone] = useState<readonly Gone[]>([]);
  const [problem, setProblem] = useState<ApiProblem | undefined>();
  const call = async (method: "POST" | "PUT" | "DELETE", path: string): Promise<boolean> => {
    const answer = await callApi(method, `/api/v1/jobs/${path}`, z.unknown()).catch(() => undefined);
    setProblem(!answer ? UNREACHABLE : answer.kind === "failed" ? answer.problem : undefined);
    router.refresh();
    return answer?.kind === "ok";
  };
  return {
    problem,
    gone,
    duplicate: async ({ id }: JobRow) => {
      if (await call("POST", `${id}/duplicate?id=${idFor(id)}`)) done();
    },
    put: async (job: JobRow, how: Gone["how"]) => {
      const [method, path] = MOVES[how].there;
      if (await call(method, `${job.id}${path}`))
        setGone((before) => [{ job, how }, ...before.filter((other) => other.job.id !== job.id)].slice(0, MOST_GONE));
    },
    undo: async ({ job, how }: Gone) => {
      const [method, path] = MOVES[how].back;
      if (await call(method, `${job.id}${path}`))
        setGone((before) => before.filter((other) => other.job.id !== job.id));
    },
  };
}

/** What is late or near in any job; nothing where all have time. */
function Reminder({ deadlines, today }: Pick<Props, "deadlines" | "today">) {
  const due = dueDeadlines(deadlines, useToday(today));
  const line = reminderLine(due.map(({ state }) => state));
  if (line === undefined) return null;
  const [first] = due;
  return (
    <div role="status">
      <Link
        className="panel press flex flex-wrap items-center gap-2 border-2 !border-warning px-3 sm:py-3"
        href="/deadlines"
      >
        <CalendarClock size={20} className="text-warning" aria-hidden />
        <b>{line}</b>
        {first && (
          <span className="quiet max-sm:hidden">
            {JOBS_WORDS.first(first.what, first.job, daysLeftText(first.daysLeft))}
          </span>
        )}
      </Link>
    </div>
  );
}

function JobsHeader({
  open,
  setOpen,
}: {
  open: "new" | "import" | undefined;
  setOpen: (next: "new" | "import" | undefined) => void;
}) {
  return (
    <header className="flex flex-wrap items-center gap-3">
      <GormitMark />
      <h1 className="text-3xl font-bold">{JOBS_WORDS.jobs}</h1>
      <span className="mr-auto">
        <ThemeSwitch />
      </span>
      <Link className="btn press border-2 border-primary" href="/jobs/reads-wrong">
        <CircleHelp size={18} aria-hidden />
        {JOBS_WORDS.aSiteReadsWrong}
      </Link>
      <Link className="btn btn-primary press" href="/jobs/new">
        <LayoutTemplate size={18} aria-hidden />
        {JOBS_WORDS.startFromAPattern}
      </Link>
      <button
        type="button"
        className="btn press"
        aria-expanded={open === "new"}
        onClick={() => setOpen(open === "new" ? undefined : "new")}
      >
        <FilePlus2 size={18} aria-hidden />
        {JOBS_WORDS.newJob}
      </button>
      <button
        type="button"
        className="btn press"
        aria-expanded={open === "import"}
        onClick={() => setOpen(open === "import" ? undefined : "import")}
      >
        <Upload size={18} aria-hidden />
        {JOBS_WORDS.import}
      </button>
      <Link className="btn press max-sm:hidden" href="/deadlines">
        <CalendarClock size={18} aria-hidden />
        {JOBS_WORDS.deadlines}
      </Link>
      <Link className="btn press" href="/kits">
        <Library size={18} aria-hidden />
        {JOBS_WORDS.kits}
      </Link>
    </header>
  );
}

/** A job that has just left the list, and how. */
interface Gone {
  readonly job: JobRow;
  readonly how: "deleted" | "archived" | "taken-out";
}

/** As many stay on the page to be brought back with one tap. */
const MOST_GONE = 5;

const MOVES = {
  deleted: { words: JOBS_WORDS.isDeleted, there: ["DELETE", ""], back: ["POST", "/restore"] },
  archived: { words: JOBS_WORDS.isInTheArchive, there: ["PUT", "/archive"], back: ["DELETE", "/archive"] },
  "taken-out": { words: JOBS_WORDS.isBackAmongTheJobs, there: ["DELETE", "/archive"], back: ["PUT", "/archive"] },
} as const;

function GoneJob({ gone, undo }: { gone: Gone; undo: (gone: Gone) => Promise<void> }) {
  return (
    <div role="status" className="panel flex flex-wrap items-center gap-3 p-3">
      <span className="mr-auto">
        “{gone.job.name}” {MOVES[gone.how].words}
      </span>
      <button type="button" className="btn press" onClick={() => void undo(gone)}>
        <Undo2 size={18} aria-hidden />
        {JOBS_WORDS.undo}
      </button>
    </div>
  );
}

/** What to do where there is no job yet. */
function FirstSteps({ hasPlaces, onArchive }: { hasPlaces: boolean; onArchive: () => void }) {
  return (
    <section aria-label={JOBS_WORDS.noJobYet} className="panel space-y-3 p-6">
      <h2 className="text-xl font-bold">{hasPlaces ? JOBS_WORDS.noJobAtHand : JOBS_WORDS.noJobYet}</h2>
      <ul className="list-disc space-y-2 pl-5">
        <li>
          <b>{JOBS_WORDS.aSiteReadsWrongTitle}</b> {JOBS_WORDS.answerThreeQuestionsType}
        </li>
        <li>
          <b>{JOBS_WORDS.startFromAPatternTitle}</b> {JOBS_WORDS.pickTheKindOfSiteAndItsKits}
        </li>
        <li>
          <b>{JOBS_WORDS.newJob}</b> {JOBS_WORDS.isAPlainPlanFromFiveAnswers} <b>{JOBS_WORDS.import}</b>{" "}
          {JOBS_WORDS.bringsInAJobFile}
        </li>
      </ul>
      {hasPlaces && (
        <button type="button" className="btn press" onClick={onArchive}>
          <Archive size={18} aria-hidden />
          {JOBS_WORDS.openTheArchive}
        </button>
      )}
    </section>
  );
}

interface ActionsProps {
  readonly job: JobRow;
  readonly shelf: ShownSearch["shelf"];
  readonly duplicate: (job: JobRow) => Promise<void>;
  readonly put: (job: JobRow, how: Gone["how"]) => Promise<void>;
}

function JobActions({ job, shelf, duplicate, put }: ActionsProps) {
  return (
    <span className="flex flex-wrap gap-x-1 lg:flex-nowrap lg:gap-0">
      <Link className="btn btn-sm press" href={`/jobs/${job.id}/place`} prefetch={false}>
        <FolderOpen size={18} aria-hidden />
        {JOBS_WORDS.open}
        <span className="sr-only"> {job.name}</span>
      </Link>
      <TakeAlong id={job.id} name={job.name} />
      <IconButton label={JOBS_WORDS.duplicate(job.name)} onClick={() => void duplicate(job)}>
        <Copy size={18} aria-hidden />
      </IconButton>
      <a
        className="btn btn-ghost btn-sm press px-0"
        href={`/api/v1/jobs/${job.id}/export`}
        download
        title={JOBS_WORDS.export(job.name)}
      >
        <Download size={18} aria-hidden />
        <span className="sr-only">{JOBS_WORDS.export(job.name)}</span>
      </a>
      {shelf === "open" ? (
        <IconButton label={JOBS_WORDS.putIntoTheArchive(job.name)} onClick={() => void put(job, "archived")}>
          <Archive size={18} aria-hidden />
        </IconButton>
      ) : (
        <IconButton label={JOBS_WORDS.takeOutOfTheArchive(job.name)} onClick={() => void put(job, "taken-out")}>
          <ArchiveRestore size={18} aria-hidden />
        </IconButton>
      )}
      <IconButton label={JOBS_WORDS.delete(job.name)} onClick={() => void put(job, "deleted")}>
        <Trash2 size={18} aria-hidden />
      </IconButton>
    </span>
  );
}

function IconButton({ label, onClick, children }: { label: string; onClick: () => void; children: React.ReactNode }) {
  return (
    <button type="button" className="btn btn-ghost btn-sm press px-0" title={label} onClick={onClick}>
      {children}
      <span className="sr-only">{label}</span>
    </button>
  );
}
