import type { Metadata } from "next";
import { connection } from "next/server";
import { manyJobs } from "@/db/job";
import { JobsPage } from "@/ui/jobs/JobsPage";

export const metadata: Metadata = { title: "Jobs" };

export default async function Page() {
  await connection();
  return <JobsPage jobs={await manyJobs()} />;
}
