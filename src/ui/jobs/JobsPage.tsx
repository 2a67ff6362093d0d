"use client";

import { z } from "zod";
import { Download, Copy, FilePlus2, FolderOpen, LayoutTemplate, Library, Trash2, Undo2, Upload } from "lucide-react";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useState } from "react";
import { ImportJob } from "@/ui/jobs/ImportJob";
import { NewJobForm } from "@/ui/jobs/NewJobForm";
import { JobTable, type ShownJobs, type JobRow, type ShownSearch } from "@/ui/jobs/JobTable";
import { callApi, UNREACHABLE, type ApiProblem } from "@/ui/parts/server/apiClient";
import { ProblemList } from "@/ui/parts/show/ProblemList";
import { useRepeatableId } from "@/ui/parts/server/useRepeatableId";
import { ThemeSwitch } from "@/ui/parts/browser/ThemeSwitch";

interface Props {
  readonly found: ShownJobs;
  readonly search: ShownSearch;
}

/** All jobs, and everything that can be done with one as a whole. */
export function JobsPage({ found, search }: Props) {
  const router = useRouter();
  const { idFor, done } = useRepeatableId();
  const [open, setOpen] = useState<"new" | "import" | undefined>();
  const [deleted, setDeleted] = useState<JobRow | undefined>();
  const [problem, setProblem] = useState<ApiProblem | undefined>();

  const call = async (method: "POST" | "DELETE", path: string): Promise<boolean> => {
    const answer = await callApi(method, path, z.unknown()).catch(() => undefined);
    setProblem(!answer ? UNREACHABLE : answer.kind === "failed" ? answer.problem : undefined);
    router.refresh();
    return answer?.kind === "ok";
  };
  const look = ({ search: words, sort, order, page }: ShownSearch) => {
    const query = new URLSearchParams({
      ...(words === "" ? {} : { search: words }),
      ...(sort === "changed" && order === "down" ? {} : { sort, order }),
      ...(page === 1 ? {} : { page: String(page) }),
    });
    router.replace(query.size === 0 ? "/jobs" : `/jobs?${query}`, { scroll: false });
  };
  const duplicate = async (job: JobRow) => {
    const path = `/api/v1/jobs/${job.id}/duplicate`;
    if (await call("POST", `${path}?id=${idFor(path)}`)) done();
  };
  const remove = async (job: JobRow) => {
    if (await call("DELETE", `/api/v1/jobs/${job.id}`)) setDeleted(job);
  };
  const restore = async (job: JobRow) => {
    if (await call("POST", `/api/v1/jobs/${job.id}/restore`)) setDeleted(undefined);
  };

  return (
    <div className="mx-auto max-w-7xl p-4 sm:p-6">
      <JobsHeader open={open} setOpen={setOpen} />
      <main className="mt-4 space-y-4">
        {open === "new" && <NewJobForm onClose={() => setOpen(undefined)} />}
        {open === "import" && <ImportJob onClose={() => setOpen(undefined)} />}
        {problem && <ProblemList problem={problem} />}
        {deleted && <DeletedJob deleted={deleted} restore={restore} />}
        {found.total === 0 && search.search === "" ? (
          <p className="panel p-6">
            No job yet. <b>Start from a pattern</b>, make a plain one with <b>New job</b>, or bring one in with{" "}
            <b>Import</b>.
          </p>
        ) : (
          <JobTable
            found={found}
            search={search}
            onSearch={look}
            actions={(job) => <JobActions job={job} duplicate={duplicate} remove={remove} />}
          />
        )}
      </main>
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
      <h1 className="text-3xl font-bold">Jobs</h1>
      <span className="mr-auto">
        <ThemeSwitch />
      </span>
      <Link className="btn btn-primary press" href="/jobs/new">
        <LayoutTemplate size={18} aria-hidden />
        Start from a pattern
      </Link>
      <button
        type="button"
        className="btn press"
        aria-expanded={open === "new"}
        onClick={() => setOpen(open === "new" ? undefined : "new")}
      >
        <FilePlus2 size={18} aria-hidden />
        New job
      </button>
      <button
        type="button"
        className="btn press"
        aria-expanded={open === "import"}
        onClick={() => setOpen(open === "import" ? undefined : "import")}
      >
        <Upload size={18} aria-hidden />
        Import
      </button>
      <Link className="btn press" href="/kits">
        <Library size={18} aria-hidden />
        Kits
      </Link>
    </header>
  );
}

function DeletedJob({ deleted, restore }: { deleted: JobRow; restore: (job: JobRow) => Promise<void> }) {
  return (
    <div role="status" className="panel flex flex-wrap items-center gap-3 p-3">
      <span className="mr-auto">“{deleted.name}” is deleted.</span>
      <button type="button" className="btn press" onClick={() => void restore(deleted)}>
        <Undo2 size={18} aria-hidden />
        Undo
      </button>
    </div>
  );
}

function JobActions({
  job,
  duplicate,
  remove,
}: {
  job: JobRow;
  duplicate: (job: JobRow) => Promise<void>;
  remove: (job: JobRow) => Promise<void>;
}) {
  return (
    <span className="flex gap-1">
      <Link className="btn btn-sm press" href={`/jobs/${job.id}/place`} prefetch={false}>
        <FolderOpen size={18} aria-hidden />
        Open<span className="sr-only"> {job.name}</span>
      </Link>
      <IconButton label={`Duplicate ${job.name}`} onClick={() => void duplicate(job)}>
        <Copy size={18} aria-hidden />
      </IconButton>
      <a
        className="btn btn-ghost btn-sm press px-0"
        href={`/api/v1/jobs/${job.id}/export`}
        download
        title={`Export ${job.name}`}
      >
        <Download size={18} aria-hidden />
        <span className="sr-only">Export {job.name}</span>
      </a>
      <IconButton label={`Delete ${job.name}`} onClick={() => void remove(job)}>
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
