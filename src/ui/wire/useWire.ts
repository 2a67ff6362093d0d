"use client";

import type { Finding } from "@/core/findings";
import { changeLinks } from "@/core/job/changeLinks";
import type { JobDocument } from "@/core/job/jobDocument";
import type { BusProbe } from "@/core/links/bus/multimeter";
import type { Link, Network } from "@/core/plan/linkSchema";
import { resolve } from "@/core/plan/resolve";
import type { ResolvedPlan } from "@/core/plan/resolvedPlan";
import { useEditor, useFindings, useJob } from "@/ui/workspace/workspaceContext";

export interface WireDesk {
  readonly jobId: string;
  readonly document: JobDocument;
  readonly plan: ResolvedPlan;
  readonly findings: readonly Finding[];
  /** Apply an edit to the links; `field` names what is typed into. */
  readonly edit: (change: (links: readonly Link[]) => Link[], field?: string) => void;
  readonly tick: (core: string) => void;
  /** Write down what a multimeter showed; undefined takes it out. */
  readonly measure: (link: string, probe: BusProbe, value: number | undefined) => void;
  /** Change what is known of the customer's network. */
  readonly setNetwork: (change: Partial<Network>, field: string) => void;
}

/** Binds the edits of links to the open job. */
export function useWire(): WireDesk {
  const editor = useEditor();
  const job = useJob();
  const findings = useFindings();
  const { document } = job;
  return {
    jobId: job.id,
    document,
    plan: resolve(document),
    findings: findings.open.filter((finding) => finding.stage === "wire"),
    edit: (change, field) => editor.edit((before) => changeLinks(before, change), field),
    tick: (core) =>
      editor.edit((before) => ({
        ...before,
        terminated: before.terminated.includes(core)
          ? before.terminated.filter((id) => id !== core)
          : [...before.terminated, core],
      })),
    measure: (link, { what, where }, value) =>
      editor.edit((before) => {
        const others = before.busReadings.filter(
          (reading) => !(reading.link === link && reading.what === what && reading.where === where),
        );
        return { ...before, busReadings: value === undefined ? others : [...others, { link, what, where, value }] };
      }, `${link} ${what} ${where}`),
    setNetwork: (change, field) =>
      editor.edit((before) => ({ ...before, network: { ...before.network, ...change } }), `network ${field}`),
  };
}
