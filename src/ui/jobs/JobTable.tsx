"use client";

import { useWhen } from "@/ui/parts/browser/useWhen";
import { ArrowDown, ArrowUp, ArrowUpDown, ChevronLeft, ChevronRight, ListFilter } from "lucide-react";
import Link from "next/link";
import { useEffect, useId, useRef, useState, type ReactNode } from "react";
import { jobSummarySchema, type JobState, type JobSummary } from "@/core/jobSummary";
import { CheckField } from "@/ui/parts/form/CheckField";
import { SelectField } from "@/ui/parts/form/SelectField";
import { FindingMark } from "@/ui/parts/show/FindingMark";
import { JOBS_WORDS } from "@/ui/words/jobsWords";

/** A job as the list shows it. */
export interface JobRow {
  readonly id: string;
  readonly name: string;
  readonly place: string;
  readonly summary: JobSummary;
  readonly savedAt: string;
}

export type JobSort = "changed" | "name" | "supply" | "state" | "findings";

export type JobDue = "late" | "week" | "month";

/** What is looked for, and in which order. */
export interface ShownSearch {
  readonly search: string;
  readonly shelf: "open" | "archived";
  readonly state?: JobState | undefined;
  readonly place?: string | undefined;
  readonly due?: JobDue | undefined;
  readonly sort: JobSort;
  readonly order: "up" | "down";
  readonly page: number;
}

/** One page of what was found. */
export interface ShownJobs {
  readonly jobs: readonly JobRow[];
  readonly total: number;
  readonly page: number;
  readonly pages: number;
  /** To choose from. */
  readonly places: readonly string[];
}

interface Props {
  readonly found: ShownJobs;
  readonly search: ShownSearch;
  readonly onSearch: (search: ShownSearch) => void;
  readonly actions: (job: JobRow) => ReactNode;
}

const STATE_WORDS: Readonly<Record<JobState, string>> = {
  placing: JOBS_WORDS.placingCTs,
  "to-prove": JOBS_WORDS.readyToProve,
  proving: JOBS_WORDS.proving,
  "faults-found": JOBS_WORDS.faultsFound,
  proved: JOBS_WORDS.proved,
};

const COLUMNS: readonly { readonly id: string; readonly header: string; readonly sort?: JobSort }[] = [
  { id: "job", header: JOBS_WORDS.job, sort: "name" },
  { id: "supply", header: JOBS_WORDS.supply, sort: "supply" },
  { id: "state", header: JOBS_WORDS.state, sort: "state" },
  { id: "findings", header: JOBS_WORDS.findings, sort: "findings" },
  { id: "next", header: JOBS_WORDS.nextThingToDo },
  { id: "saved", header: JOBS_WORDS.changed, sort: "changed" },
];

const DUE_OPTIONS: readonly { readonly value: "" | JobDue; readonly label: string }[] = [
  { value: "", label: JOBS_WORDS.anyOrNone },
  { value: "late", label: JOBS_WORDS.late },
  { value: "week", label: JOBS_WORDS.withinAWeek },
  { value: "month", label: JOBS_WORDS.within30Days },
];

/** Somebody who types goes on within this. */
const SEARCH_AFTER_MS = 250;

/** A page of the jobs as a table; searched and sorted where the jobs are. On a phone each row is a card. */
export function JobTable({ found, search, onSearch, actions }: Props) {
  const { jobs, total } = found;
  return (
    <div className="space-y-3">
      <div className="flex flex-wrap items-end gap-x-4 gap-y-2">
        <SearchField search={search} onSearch={onSearch} />
        <Filters found={found} search={search} onSearch={onSearch} />
      </div>
      <table className="w-full border-collapse text-left">
        <SortableHead search={search} onSearch={onSearch} />
        <tbody>
          {jobs.map((job) => (
            <Row key={job.id} job={job} actions={actions} />
          ))}
        </tbody>
      </table>
      {jobs.length === 0 && (
        <p className="panel flex flex-wrap items-center gap-3 p-4">
          <span className="mr-auto">
            {search.shelf === "archived" ? JOBS_WORDS.noJobLikeThisInTheArchive : JOBS_WORDS.noJobIsLikeThis}
          </span>
          <button type="button" className="btn press" onClick={() => onSearch({ ...search, ...ALL_JOBS })}>
            {JOBS_WORDS.showAllJobs}
          </button>
        </p>
      )}
      <Pages found={found} onPage={(page) => onSearch({ ...search, page })} />
      <p role="status" className="quiet text-sm">
        {total === 1 ? JOBS_WORDS.oneJob : JOBS_WORDS.jobsOf(total)}
        {search.search === "" ? "" : JOBS_WORDS.with(search.search)}
        {search.shelf === "archived" ? ` ${JOBS_WORDS.inTheArchive}` : ""}
      </p>
    </div>
  );
}

function SortableHead({ search, onSearch }: Pick<Props, "search" | "onSearch">) {
  return (
    <thead className="max-lg:sr-only">
      <tr className="border-b-2 border-base-300">
        {COLUMNS.map(({ id, header, sort }) => (
          <th
            key={id}
            scope="col"
            className="py-1 pr-3"
            aria-sort={search.sort === sort ? (search.order === "up" ? "ascending" : "descending") : "none"}
          >
            {sort ? (
              <button
                type="button"
                className="press inline-flex items-center gap-1 font-semibold"
                onClick={() =>
                  onSearch({
                    ...search,
                    sort,
                    order: search.sort === sort && search.order === "down" ? "up" : "down",
                    page: 1,
                  })
                }
              >
                {header}
                <SortIcon order={search.sort === sort ? search.order : undefined} />
              </button>
            ) : (
              header
            )}
          </th>
        ))}
        <th scope="col">
          <span className="sr-only">{JOBS_WORDS.actions}</span>
        </th>
      </tr>
    </thead>
  );
}

/** What shows every job at hand. */
export const ALL_JOBS = {
  search: "",
  shelf: "open",
  state: undefined,
  place: undefined,
  due: undefined,
  page: 1,
} as const;

/** On a phone they are behind a button: the first job is what is looked for there. */
function Filters({ found, search, onSearch }: Pick<Props, "found" | "search" | "onSearch">) {
  const change = (part: Partial<ShownSearch>) => onSearch({ ...search, ...part, page: 1 });
  const [isOpen, setOpen] = useState(false);
  const { shelf, state, place, due } = search;
  const count = [shelf === "archived", state, place, due].filter(Boolean).length;
  return (
    <>
      <button type="button" className="btn press md:hidden" aria-expanded={isOpen} onClick={() => setOpen(!isOpen)}>
        <ListFilter size={18} aria-hidden />
        {count === 0 ? JOBS_WORDS.filter : JOBS_WORDS.filterOf(count)}
      </button>
      <div className={`flex flex-wrap items-end gap-x-4 gap-y-2 ${isOpen ? "" : "max-md:hidden"}`}>
        <span className="w-40">
          <SelectField
            label={JOBS_WORDS.state}
            value={search.state ?? ""}
            options={[
              { value: "", label: JOBS_WORDS.everyState },
              ...jobSummarySchema.shape.state.options.map((value) => ({ value, label: STATE_WORDS[value] })),
            ]}
            onValue={(state) => change({ state: jobSummarySchema.shape.state.safeParse(state).data })}
          />
        </span>
        {found.places.length > 1 && (
          <span className="w-48">
            <SelectField
              label={JOBS_WORDS.place}
              value={search.place ?? ""}
              options={[
                { value: "", label: JOBS_WORDS.everyPlace },
                ...found.places.map((value) => ({ value, label: value })),
              ]}
              onValue={(place) => change({ place: place === "" ? undefined : place })}
            />
          </span>
        )}
        <span className="w-44">
          <SelectField
            label={JOBS_WORDS.deadline}
            value={search.due ?? ""}
            options={DUE_OPTIONS}
            onValue={(due) => change({ due: due === "late" || due === "week" || due === "month" ? due : undefined })}
          />
        </span>
        <CheckField
          checked={search.shelf === "archived"}
          onCheck={(isArchive) => change({ shelf: isArchive ? "archived" : "open" })}
        >
          {JOBS_WORDS.archive}
        </CheckField>
      </div>
    </>
  );
}

function SearchField({ search, onSearch }: Pick<Props, "search" | "onSearch">) {
  const id = useId();
  const [typed, setTyped] = useState(search.search);
  const latest = useRef({ search, onSearch });
  useEffect(() => {
    latest.current = { search, onSearch };
  }, [search, onSearch]);
  const [shown, setShown] = useState(search.search);
  // Cleared from elsewhere; what is typed meanwhile comes with the next look.
  if (shown !== search.search) {
    setShown(search.search);
    if (search.search === "") setTyped("");
  }
  useEffect(() => {
    if (typed.trim() === latest.current.search.search) return;
    const timer = setTimeout(
      () => latest.current.onSearch({ ...latest.current.search, search: typed.trim(), page: 1 }),
      SEARCH_AFTER_MS,
    );
    return () => clearTimeout(timer);
  }, [typed]);
  return (
    <div className="min-w-0 text-sm max-md:flex-1">
      <label htmlFor={id} className="mb-0.5 block font-semibold">
        {JOBS_WORDS.search}
      </label>
      <input
        id={id}
        type="search"
        className="field w-72 max-w-full max-md:w-full"
        maxLength={120}
        value={typed}
        onChange={(event) => setTyped(event.target.value)}
      />
    </div>
  );
}

function Row({ job, actions }: { job: JobRow; actions: Props["actions"] }) {
  const when = useWhen();
  const { name, place, summary, savedAt } = job;
  const cells: readonly ReactNode[] = [
    <>
      <Link
        className="text-lg font-semibold hover:underline max-lg:press max-lg:inline-flex max-lg:items-center"
        href={`/jobs/${job.id}/place`}
        prefetch={false}
      >
        {name}
      </Link>
      <span className="quiet block text-sm">{place}</span>
    </>,
    summary.supply,
    STATE_WORDS[summary.state],
    <FindingCounts key="findings" summary={summary} />,
    summary.next,
    <time key="saved" className="whitespace-nowrap" dateTime={savedAt}>
      {when(savedAt, "minute")}
    </time>,
  ];
  return (
    <tr data-job={name} className="border-b border-base-300 align-top max-lg:panel max-lg:mb-3 max-lg:block max-lg:p-3">
      {COLUMNS.map(({ id, header }, at) => (
        <td key={id} className="py-3 pr-3 max-lg:block max-lg:py-1">
          {id !== "job" && <span className="quiet mr-2 text-sm lg:hidden">{header}</span>}
          {cells[at]}
        </td>
      ))}
      <td className="py-2 max-lg:block">{actions(job)}</td>
    </tr>
  );
}

function Pages({ found: { page, pages }, onPage }: { found: ShownJobs; onPage: (page: number) => void }) {
  if (pages < 2) return null;
  return (
    <nav aria-label={JOBS_WORDS.pages} className="flex items-center gap-3">
      <button type="button" className="btn press" disabled={page === 1} onClick={() => onPage(page - 1)}>
        <ChevronLeft size={18} aria-hidden />
        {JOBS_WORDS.before}
      </button>
      <span>{JOBS_WORDS.pageOf(page, pages)}</span>
      <button type="button" className="btn press" disabled={page === pages} onClick={() => onPage(page + 1)}>
        {JOBS_WORDS.next}
        <ChevronRight size={18} aria-hidden />
      </button>
    </nav>
  );
}

function FindingCounts({ summary: { findings } }: { summary: JobSummary }) {
  const levels = (["stop", "fix", "note"] as const).filter((level) => findings[level] > 0);
  if (levels.length === 0) return <span className="quiet">{JOBS_WORDS.none}</span>;
  return (
    <span className="inline-flex flex-wrap gap-x-3">
      {levels.map((level) => (
        <FindingMark key={level} level={level} count={findings[level]} />
      ))}
    </span>
  );
}

function SortIcon({ order }: { order: ShownSearch["order"] | undefined }) {
  if (order === "up") return <ArrowUp size={16} aria-hidden />;
  return order === "down" ? (
    <ArrowDown size={16} aria-hidden />
  ) : (
    <ArrowUpDown size={16} className="opacity-50" aria-hidden />
  );
}
