"use client";

import {
  columnFilteringFeature, createColumnHelper, createFilteredRowModel, createSortedRowModel, FlexRender, globalFilteringFeature,
  filterFn_includesString, rowSortingFeature, sortFn_alphanumeric, tableFeatures, useTable,
} from "@tanstack/react-table";
import { format, parseISO } from "date-fns";
import { ArrowDown, ArrowUp, ArrowUpDown } from "lucide-react";
import Link from "next/link";
import { useId, type ReactNode } from "react";
import type { JobState, JobSummary } from "@/core/job/jobSummary";
import { FindingMark } from "@/ui/parts/FindingMark";

/** A job as the list shows it. */
export interface JobRow {
  readonly id: string;
  readonly name: string;
  readonly place: string;
  readonly summary: JobSummary;
  readonly savedAt: string;
}

const STATE_WORDS: Readonly<Record<JobState, string>> = {
  "placing": "Placing clamps", "to-prove": "Ready to prove", "proving": "Proving", "faults-found": "Faults found", "proved": "Proved",
};

const features = tableFeatures({
  columnFilteringFeature, globalFilteringFeature, rowSortingFeature,
  filteredRowModel: createFilteredRowModel(), sortedRowModel: createSortedRowModel(),
  filterFns: { includesString: filterFn_includesString }, sortFns: { alphanumeric: sortFn_alphanumeric },
});

const helper = createColumnHelper<typeof features, JobRow>();

const columns = helper.columns([
  helper.accessor((job) => `${job.name} ${job.place}`, {
    id: "job", header: "Job", sortFn: "alphanumeric", filterFn: "includesString",
    cell: ({ row }) => <><Link className="text-lg font-semibold hover:underline" href={`/jobs/${row.original.id}/place`}>{row.original.name}</Link><span className="quiet block text-sm">{row.original.place}</span></>,
  }),
  helper.accessor((job) => job.summary.supply, { id: "supply", header: "Supply", sortFn: "alphanumeric", filterFn: "includesString" }),
  helper.accessor((job) => STATE_WORDS[job.summary.state], { id: "state", header: "State", sortFn: "alphanumeric", filterFn: "includesString" }),
  helper.accessor((job) => job.summary.findings.stop * 1e6 + job.summary.findings.fix * 1e3 + job.summary.findings.note, {
    id: "findings", header: "Findings", sortFn: "alphanumeric", enableGlobalFilter: false,
    cell: ({ row }) => <FindingCounts summary={row.original.summary} />,
  }),
  helper.accessor((job) => job.summary.next, { id: "next", header: "Next thing to do", enableSorting: false, filterFn: "includesString" }),
  helper.accessor("savedAt", {
    id: "saved", header: "Changed", sortFn: "alphanumeric", enableGlobalFilter: false,
    cell: ({ getValue }) => <time className="whitespace-nowrap" dateTime={getValue()} suppressHydrationWarning>{format(parseISO(getValue()), "d MMM HH:mm")}</time>,
  }),
]);

/** The jobs as a table that sorts and searches; on a phone each row is a card. */
export function JobTable({ jobs, actions }: { jobs: readonly JobRow[]; actions: (job: JobRow) => ReactNode }) {
  const searchId = useId();
  const table = useTable({ features, columns, data: jobs as JobRow[], globalFilterFn: "includesString" });
  const rows = table.getRowModel().rows;
  return (
    <div className="space-y-3">
      <div className="flex flex-wrap items-center gap-2">
        <label htmlFor={searchId}>Search</label>
        <input id={searchId} type="search" className="field max-w-xs" onChange={(event) => table.setGlobalFilter(event.target.value)} />
      </div>
      <table className="w-full border-collapse text-left">
        <thead className="max-lg:sr-only">
          {table.getHeaderGroups().map((group) => (
            <tr key={group.id} className="border-b-2 border-base-300">
              {group.headers.map((header) => (
                <th key={header.id} scope="col" className="py-1 pr-3" aria-sort={sortWord(header.column.getIsSorted())}>
                  {header.column.getCanSort()
                    ? <button type="button" className="press inline-flex items-center gap-1 font-semibold" onClick={header.column.getToggleSortingHandler()}>
                        <FlexRender header={header} /><SortIcon sorted={header.column.getIsSorted()} />
                      </button>
                    : <FlexRender header={header} />}
                </th>
              ))}
              <th scope="col"><span className="sr-only">Actions</span></th>
            </tr>
          ))}
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr key={row.id} data-job={row.original.name} className="border-b border-base-300 align-top max-lg:panel max-lg:mb-3 max-lg:block max-lg:p-3">
              {row.getAllCells().map((cell) => (
                <td key={cell.id} className="py-3 pr-3 max-lg:block max-lg:py-1">
                  {cell.column.id !== "job" && <span className="quiet mr-2 text-sm lg:hidden">{String(cell.column.columnDef.header)}</span>}
                  <FlexRender cell={cell} />
                </td>
              ))}
              <td className="py-2 max-lg:block">{actions(row.original)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {rows.length === 0 && <p className="panel p-4">No job has these words. Clear the search to see all {jobs.length}.</p>}
    </div>
  );
}

function FindingCounts({ summary: { findings } }: { summary: JobSummary }) {
  const levels = (["stop", "fix", "note"] as const).filter((level) => findings[level] > 0);
  if (levels.length === 0) return <span className="quiet">none</span>;
  return <span className="inline-flex flex-wrap gap-x-3">{levels.map((level) => <FindingMark key={level} level={level} count={findings[level]} />)}</span>;
}

function SortIcon({ sorted }: { sorted: false | "asc" | "desc" }) {
  if (sorted === "asc") return <ArrowUp size={16} aria-hidden />;
  return sorted === "desc" ? <ArrowDown size={16} aria-hidden /> : <ArrowUpDown size={16} className="opacity-50" aria-hidden />;
}

function sortWord(sorted: false | "asc" | "desc"): "ascending" | "descending" | "none" {
  if (sorted === "asc") return "ascending";
  return sorted === "desc" ? "descending" : "none";
}
