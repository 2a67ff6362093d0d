import type { Metadata } from "next";
import { notFound } from "next/navigation";
import { connection } from "next/server";
import type { ReactNode } from "react";
import { kitLibrary } from "@/app/library/kitLibrary";
import { maybeJob, maybeJobOrBroken } from "@/db/job";
import { BrokenJobPage } from "@/ui/jobs/BrokenJobPage";
import { JobWorkspace } from "@/ui/workspace/JobWorkspace";

interface Props {
  readonly params: Promise<{ jobId: string }>;
  readonly children: ReactNode;
}

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  await connection();
  return { title: (await maybeJob((await params).jobId))?.document.job.name ?? "No such job" };
}

export default async function Layout({ params, children }: Props) {
  await connection();
  const found = await maybeJobOrBroken((await params).jobId);
  if (!found) notFound();
  if (found.kind === "broken") return <BrokenJobPage job={found.broken} />;
  const { job } = found;
  return <JobWorkspace key={job.id} job={job} library={(await kitLibrary()).kits.map(({ kit }) => kit)}>{children}</JobWorkspace>;
}
