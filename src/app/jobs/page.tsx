import type { Metadata } from "next";
import { connection } from "next/server";
import { today } from "@/app/library/dateOf";
import { listedJobs } from "@/app/jobs/listedJobs";
import { manyDeadlines } from "@/db/deadline";
import { jobSearchSchema } from "@/db/job";
import { JobsPage } from "@/ui/jobs/JobsPage";
import { APP_WORDS } from "@/ui/words/appWords";

export const metadata: Metadata = { title: APP_WORDS.jobs };

interface Props {
  readonly searchParams: Promise<Readonly<Record<string, string | string[] | undefined>>>;
}

/** A page of the jobs as the address says; what in it makes no sense is left out. */
export default async function Page({ searchParams }: Props) {
  await connection();
  const asked = jobSearchSchema.safeParse(await searchParams);
  const search = asked.success ? asked.data : jobSearchSchema.parse({});
  const [found, deadlines] = [await listedJobs(search), await manyDeadlines()];
  return <JobsPage found={found} search={search} deadlines={deadlines} today={today()} />;
}
