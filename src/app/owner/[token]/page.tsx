import type { Metadata } from "next";
import { headers } from "next/headers";
import { notFound } from "next/navigation";
import { ownerLanguageSchema } from "@/app/api/ownerLanguageSchema";
import { ownerPage } from "@/core/handover/owner/ownerPage";
import { ownerLanguage } from "@/core/handover/owner/words/ownerLanguages";
import { maybeJob } from "@/db/job";
import { maybeJobOfOwner } from "@/db/ownerLink";
import { OwnerSheet } from "@/ui/handover/OwnerSheet";
import { APP_WORDS } from "@/ui/words/appWords";

export const metadata: Metadata = {
  title: APP_WORDS.yourSite,
  robots: { index: false, follow: false },
  referrer: "no-referrer",
};

interface Props {
  readonly params: Promise<{ token: string }>;
  readonly searchParams: Promise<Readonly<Record<string, string | string[] | undefined>>>;
}

/** The owner's page: whoever has the link reads it, without an account, in the language that their browser asks for. */
export default async function Page({ params, searchParams }: Props) {
  const jobId = await maybeJobOfOwner((await params).token);
  const job = jobId === undefined ? undefined : await maybeJob(jobId);
  if (!job) notFound();
  const asked = ownerLanguageSchema.safeParse((await searchParams).language);
  const language = asked.success ? asked.data : ownerLanguage((await headers()).get("accept-language") ?? "");
  return <OwnerSheet page={ownerPage(job.document, language)} />;
}
