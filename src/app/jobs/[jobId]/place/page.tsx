import { startOf, type SearchParams } from "@/app/jobs/[jobId]/startOf";
import { PlaceStage } from "@/ui/place/PlaceStage";

export default async function Page({ searchParams }: { searchParams: Promise<SearchParams> }) {
  const start = startOf(await searchParams);
  const input = start?.kind === "input" ? start : undefined;
  return <PlaceStage key={JSON.stringify(input)} start={input} />;
}
