import { z } from "zod";
import { VisitStage } from "@/ui/visit/VisitStage";

const startSchema = z.object({ step: z.string().max(300) });

export default async function Page({
  searchParams,
}: {
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}) {
  const start = startSchema.safeParse(await searchParams);
  return <VisitStage step={start.success ? start.data.step : undefined} />;
}
