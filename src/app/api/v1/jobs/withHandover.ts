import { z } from "zod";
import { errorResponse } from "@/app/api/respond";
import { withJob } from "@/app/api/v1/jobs/withJob";
import { maybeHandover, type KeptHandover } from "@/db/handover";

/** What Next.js hands to a route under a hand over. */
export interface HandoverContext {
  readonly params: Promise<{ jobId: string; number: string }>;
}

const NEWEST = "newest";
const numberSchema = z.coerce.number().int().min(1).max(1_000_000);

/** Answer about a hand over that is there, by its number or as the newest; 404 where it is not. */
export function withHandover(
  { params }: HandoverContext,
  answer: (kept: KeptHandover) => Promise<Response> | Response,
): Promise<Response> {
  return withJob({ params }, async ({ id }) => {
    const asked = (await params).number;
    const number = asked === NEWEST ? undefined : numberSchema.safeParse(asked).data;
    const kept = asked === NEWEST || number !== undefined ? await maybeHandover(id, number) : undefined;
    return kept ? answer(kept) : errorResponse("not-found", "There is no such hand over.");
  });
}
