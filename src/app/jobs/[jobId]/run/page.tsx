import { z } from "zod";
import { RunStage } from "@/ui/run/RunStage";

const startSchema = z.object({ step: z.string().max(300) });

export default async function Page({
  searchParams,
}: {
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}) {
  const start = startSchema.safeParse(await searchParams);
  return <RunStage step={start.success ? start.data.step : undefined} />;
}
