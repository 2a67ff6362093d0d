import { startOf, type SearchParams } from "@/app/jobs/[jobId]/startOf";
import { PlanStage } from "@/ui/plan/PlanStage";

export default async function Page({ searchParams }: { searchParams: Promise<SearchParams> }) {
  const start = startOf(await searchParams);
  // Another link to this page starts it anew with what that link leads to.
  return <PlanStage key={JSON.stringify(start)} start={start} />;
}
