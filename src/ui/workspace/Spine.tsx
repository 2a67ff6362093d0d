"use client";

import { Cable, ClipboardCheck, DraftingCompass, Gauge, ListTodo, LocateFixed, Split } from "lucide-react";
import Link from "next/link";
import { usePathname } from "next/navigation";
import type { Finding, FindingStage } from "@/core/findings";
import type { Verdict } from "@/core/flows/diagnose";

interface Props {
  readonly jobId: string;
  /** Those that are open. */
  readonly findings: readonly Finding[];
  readonly links: number;
  readonly run: { readonly over: number; readonly all: number; readonly stopped: number };
  readonly limitState: string;
  readonly hasReadings: boolean;
  readonly verdict: Verdict | undefined;
}

const VERDICT_WORDS: Readonly<Record<Verdict, string>> = {
  "as-planned": "as planned",
  "faults-found": "faults found",
  ambiguous: "not certain yet",
  "not-explained": "not explained",
};

/** The stages in the order of work, with the state of each; along the bottom on a phone. */
export function Spine({ jobId, findings, links, run, limitState, hasReadings, verdict }: Props) {
  const path = usePathname();
  const wrong = (stage: FindingStage) =>
    findings.filter((finding) => finding.stage === stage && finding.severity !== "note").length;
  const stages = [
    {
      id: "plan",
      name: "Plan",
      Icon: DraftingCompass,
      state: wrong("plan") > 0 ? `${wrong("plan")} to put right` : "holds together",
    },
    {
      id: "place",
      name: "Place",
      Icon: LocateFixed,
      state: wrong("place") > 0 ? `${wrong("place")} to put right` : "as planned",
    },
    {
      id: "wire",
      name: "Wire",
      Icon: Cable,
      state:
        wrong("wire") > 0
          ? `${wrong("wire")} to put right`
          : links === 0
            ? "no links"
            : links === 1
              ? "1 link"
              : `${links} links`,
    },
    {
      id: "run",
      name: "Run",
      Icon: ListTodo,
      state: run.stopped > 0 ? `${run.stopped} stopped` : `${run.over} of ${run.all}`,
    },
    {
      id: "prove",
      name: "Prove",
      Icon: ClipboardCheck,
      state: verdict ? VERDICT_WORDS[verdict] : hasReadings ? "weighing" : "no readings yet",
    },
    {
      id: "limit",
      name: "Limit",
      Icon: Gauge,
      state: wrong("limit") > 0 ? `${wrong("limit")} to put right` : limitState,
    },
    {
      id: "divert",
      name: "Divert",
      Icon: Split,
      state: wrong("divert") > 0 ? `${wrong("divert")} to put right` : "surplus",
    },
  ];
  return (
    <nav
      aria-label="Stages"
      className="border-base-300 bg-base-200 max-md:flex max-md:border-t md:w-36 md:border-r md:py-2"
    >
      {stages.map(({ id, name, Icon, state }) => {
        const here = path.endsWith(`/${id}`);
        return (
          <Link
            key={id}
            href={`/jobs/${jobId}/${id}`}
            aria-current={here ? "page" : undefined}
            className={`press flex items-center gap-2 px-3 py-2 max-md:min-w-0 max-md:flex-1 max-md:flex-col max-md:justify-center max-md:gap-0 max-md:px-0.5 max-md:py-1 max-md:text-sm ${here ? "bg-base-100 font-bold shadow-[inset_4px_0_0_var(--color-primary)] max-md:shadow-[inset_0_4px_0_var(--color-primary)]" : ""}`}
          >
            <Icon size={22} aria-hidden />
            <span className="leading-tight">
              {name}
              <span className="quiet block text-xs font-normal max-md:sr-only">{state}</span>
            </span>
          </Link>
        );
      })}
    </nav>
  );
}
