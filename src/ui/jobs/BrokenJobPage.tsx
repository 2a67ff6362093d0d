"use client";

import { Download } from "lucide-react";
import Link from "next/link";
import { downloadText } from "@/ui/parts/browser/downloadText";
import { JOBS_WORDS } from "@/ui/words/jobsWords";

/**
 * A job whose row this program cannot read: what is wrong, and all that stands in it as a file. Nothing is written
 * over.
 */
export function BrokenJobPage({
  job: { id, name, problem, document },
}: {
  job: { readonly id: string; readonly name: string; readonly problem: string; readonly document: unknown };
}) {
  return (
    <main className="mx-auto max-w-2xl space-y-3 p-6">
      <Link href="/jobs" className="link quiet press inline-flex items-center text-sm">
        {JOBS_WORDS.jobs}
      </Link>
      <h1 className="text-2xl font-bold">{JOBS_WORDS.cannotBeRead(name)}</h1>
      <p>{JOBS_WORDS.itIsKeptAsItIsAndNothingIsWritten(problem)}</p>
      <p>{JOBS_WORDS.saveItAsAFilePutThatRightInAText}</p>
      <button
        type="button"
        className="btn btn-primary press"
        onClick={() => downloadText(`job-${id}.json`, JSON.stringify(document, null, 2))}
      >
        <Download size={18} aria-hidden />
        {JOBS_WORDS.saveItAsAFile}
      </button>
    </main>
  );
}
