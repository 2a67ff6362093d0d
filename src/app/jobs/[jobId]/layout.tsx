import type { Metadata } from "next";
import { notFound } from "next/navigation";
import { connection } from "next/server";
import type { ReactNode } from "react";
import { kitLibrary } from "@/app/library/kitLibrary";
import { maybeJob } from "@/db/job";
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
  const job = await maybeJob((await params).jobId);
  if (!job) notFound();
  return <JobWorkspace key={job.id} job={job} library={(await kitLibrary()).map(({ kit }) => kit)}>{children}</JobWorkspace>;
}
