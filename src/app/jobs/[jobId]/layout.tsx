import type { Metadata } from "next";
import { headers } from "next/headers";
import { notFound } from "next/navigation";
import { connection } from "next/server";
import { cache, type ReactNode } from "react";
import { ShownStage } from "@/app/jobs/[jobId]/ShownStage";
import { kitLibrary } from "@/app/library/kitLibrary";
import { jsonText } from "@/core/jsonText";
import { maybeJobOrBroken } from "@/db/job";
import { BrokenJobPage } from "@/ui/jobs/BrokenJobPage";
import { JobWorkspace } from "@/ui/workspace/JobWorkspace";
import { APP_WORDS } from "@/ui/words/appWords";

interface Props {
  readonly params: Promise<{ jobId: string }>;
  readonly children: ReactNode;
}

/** Read once for the page and for its title. */
const jobOf = cache(maybeJobOrBroken);

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  await connection();
  const found = await jobOf((await params).jobId);
  return {
    title:
      found === undefined
        ? APP_WORDS.noSuchJob
        : found.kind === "job"
          ? found.job.document.job.name
          : found.broken.name,
  };
}

export default async function Layout({ params, children }: Props) {
  await connection();
  const found = await jobOf((await params).jobId);
  if (!found) notFound();
  if (found.kind === "broken") return <BrokenJobPage job={found.broken} />;
  const { job } = found;
  // Asked for by the worker that keeps it: a page for every stage, and for a job that may have gone on since.
  const isFrame = (await headers()).has("x-gormit-frame");
  const library = (await kitLibrary()).kits.map(({ kit }) => kit);
  return (
    <JobWorkspace key={job.id} job={jsonText(job)} library={jsonText(library)} isFrame={isFrame}>
      <ShownStage />
      {children}
    </JobWorkspace>
  );
}
