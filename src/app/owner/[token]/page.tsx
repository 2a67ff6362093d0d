import type { Metadata } from "next";
import { notFound } from "next/navigation";
import { ownerPage } from "@/core/handover/ownerPage";
import { maybeJob } from "@/db/job";
import { maybeJobOfOwner } from "@/db/ownerLink";
import { OwnerSheet } from "@/ui/handover/OwnerSheet";

export const metadata: Metadata = {
  title: "Your site",
  robots: { index: false, follow: false },
  referrer: "no-referrer",
};

/** The owner's page: whoever has the link reads it, without an account. */
export default async function Page({ params }: { params: Promise<{ token: string }> }) {
  const jobId = await maybeJobOfOwner((await params).token);
  const job = jobId === undefined ? undefined : await maybeJob(jobId);
  if (!job) notFound();
  return <OwnerSheet parts={ownerPage(job.document)} />;
}
