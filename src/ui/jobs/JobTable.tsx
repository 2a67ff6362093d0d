"use client";

import { format, parseISO } from "date-fns";
import { ArrowDown, ArrowUp, ArrowUpDown, ChevronLeft, ChevronRight } from "lucide-react";
import Link from "next/link";
import { useEffect, useId, useRef, useState, type ReactNode } from "react";
import type { JobState, JobSummary } from "@/core/jobSummary";
import { FindingMark } from "@/ui/parts/show/FindingMark";

/** A job as the list shows it. */
export interface JobRow {
  readonly id: string;
  readonly name: string;
  readonly place: string;
  readonly summary: JobSummary;
  readonly savedAt: string;
}

export type JobSort = "changed" | "name" | "supply" | "state" | "findings";

/** What is looked for, and in which order. */
export interface ShownSearch {
  readonly search: string;
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
}

interface Props {
  readonly found: ShownJobs;
  readonly search: ShownSearch;
  readonly onSearch: (search: ShownSearch) => void;
  readonly actions: (job: JobRow) => ReactNode;
}

const STATE_WORDS: Readonly<Record<JobState, string>> = {
  placing: "Placing clamps",
  "to-prove": "Ready to prove",
  proving: "Proving",
  "faults-found": "Faults found",
  proved: "Proved",
};

const COLUMNS: readonly { readonly id: string; readonly header: string; readonly sort?: JobSort }[] = [
  { id: "job", header: "Job", sort: "name" },
  { id: "supply", header: "Supply", sort: "supply" },
  { id: "state", header: "State", sort: "state" },
  { id: "findings", header: "Findings", sort: "findings" },
  { id: "next", header: "Next thing to do" },
  { id: "saved", header: "Changed", sort: "changed" },
];

/** Somebody who types goes on within this. */
const SEARCH_AFTER_MS = 250;

/** A page of the jobs as a table; searched and sorted where the jobs are. On a phone each row is a card. */
export function JobTable({ found, search, onSearch, actions }: Props) {
  const { jobs, total } = found;
  return (
    <div className="space-y-3">
      <SearchField search={search} onSearch={onSearch} />
      <table className="w-full border-collapse text-left">
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
              <span className="sr-only">Actions</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {jobs.map((job) => (
            <Row key={job.id} job={job} actions={actions} />
          ))}
        </tbody>
      </table>
      {jobs.length === 0 && <p className="panel p-4">No job has these words. Clear the search to see all.</p>}
      <Pages found={found} onPage={(page) => onSearch({ ...search, page })} />
      <p role="status" className="quiet text-sm">
        {total === 1 ? "One job" : `${total} jobs`}
        {search.search === "" ? "" : ` with “${search.search}”`}
      </p>
    </div>
  );
}

function SearchField({ search, onSearch }: Pick<Props, "search" | "onSearch">) {
  const id = useId();
  const [typed, setTyped] = useState(search.search);
  const latest = useRef({ search, onSearch });
  useEffect(() => {
    latest.current = { search, onSearch };
  }, [search, onSearch]);
  useEffect(() => {
    if (typed.trim() === latest.current.search.search) return;
    const timer = setTimeout(
      () => latest.current.onSearch({ ...latest.current.search, search: typed.trim(), page: 1 }),
      SEARCH_AFTER_MS,
    );
    return () => clearTimeout(timer);
  }, [typed]);
  return (
    <div className="flex flex-wrap items-center gap-2">
      <label htmlFor={id}>Search</label>
      <input
        id={id}
        type="search"
        className="field max-w-xs"
        maxLength={120}
        value={typed}
        onChange={(event) => setTyped(event.target.value)}
      />
    </div>
  );
}

function Row({ job, actions }: { job: JobRow; actions: Props["actions"] }) {
  const { name, place, summary, savedAt } = job;
  const cells: readonly ReactNode[] = [
    <>
      <Link className="text-lg font-semibold hover:underline" href={`/jobs/${job.id}/place`} prefetch={false}>
        {name}
      </Link>
      <span className="quiet block text-sm">{place}</span>
    </>,
    summary.supply,
    STATE_WORDS[summary.state],
    <FindingCounts key="findings" summary={summary} />,
    summary.next,
    <time key="saved" className="whitespace-nowrap" dateTime={savedAt} suppressHydrationWarning>
      {format(parseISO(savedAt), "d MMM HH:mm")}
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
    <nav aria-label="Pages" className="flex items-center gap-3">
      <button type="button" className="btn press" disabled={page === 1} onClick={() => onPage(page - 1)}>
        <ChevronLeft size={18} aria-hidden />
        Before
      </button>
      <span>
        Page {page} of {pages}
      </span>
      <button type="button" className="btn press" disabled={page === pages} onClick={() => onPage(page + 1)}>
        Next
        <ChevronRight size={18} aria-hidden />
      </button>
    </nav>
  );
}

function FindingCounts({ summary: { findings } }: { summary: JobSummary }) {
  const levels = (["stop", "fix", "note"] as const).filter((level) => findings[level] > 0);
  if (levels.length === 0) return <span className="quiet">none</span>;
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
