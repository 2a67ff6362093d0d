"use client";

import { X } from "lucide-react";
import Link from "next/link";
import type { Finding } from "@/core/findings";
import { FindingMark } from "@/ui/parts/FindingMark";

const ORDER = ["stop", "fix", "note"] as const;

/** Every finding of the job, worst first, each with its cure, its source, and the way to its place. */
export function FindingsDrawer({ jobId, findings, onClose }: { jobId: string; findings: readonly Finding[]; onClose: () => void }) {
  const sorted = findings.toSorted((a, b) => ORDER.indexOf(a.severity) - ORDER.indexOf(b.severity));
  return (
    <aside aria-label="Findings" className="w-80 overflow-auto border-l border-base-300 bg-base-200 p-3 max-md:absolute max-md:inset-x-0 max-md:bottom-0 max-md:top-24 max-md:z-30 max-md:w-full">
      <div className="flex items-center justify-between">
        <h2 className="text-lg font-bold">Findings</h2>
        <button type="button" className="btn btn-ghost press px-2" onClick={onClose}><X size={20} aria-hidden /><span className="sr-only">Close findings</span></button>
      </div>
      {sorted.length === 0 && <p className="mt-2">Nothing is wrong as far as it has been looked at.</p>}
      <ul className="space-y-2">
        {sorted.map((finding) => (
          <li key={finding.id} className="panel bg-base-100 p-3">
            <FindingMark level={finding.severity} />
            <p className="mt-1">{finding.detail}</p>
            <p className="mt-1 font-semibold">{finding.cure}</p>
            <p className="mt-1 flex items-center justify-between gap-2">
              <span className="quiet text-sm">{finding.source}</span>
              <Link className="link press inline-flex items-center text-sm" href={`/jobs/${jobId}/${finding.stage}`}>Show in {finding.stage === "place" ? "Place" : "Prove"}</Link>
            </p>
          </li>
        ))}
      </ul>
    </aside>
  );
}
