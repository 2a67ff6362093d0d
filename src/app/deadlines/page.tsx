import type { Metadata } from "next";
import { connection } from "next/server";
import { today } from "@/app/library/dateOf";
import { manyDeadlines } from "@/db/deadline";
import { DeadlinesPage } from "@/ui/jobs/DeadlinesPage";
import { APP_WORDS } from "@/ui/words/appWords";

export const metadata: Metadata = { title: APP_WORDS.deadlines };

/** The deadlines of all jobs. */
export default async function Page() {
  await connection();
  return <DeadlinesPage deadlines={await manyDeadlines()} today={today()} />;
}
