import { answerBy, answered } from "@/app/api/respond";
import { allDeadlinesSchema } from "@/core/handover/allDeadlines";
import { manyDeadlines } from "@/db/deadline";

/** The open deadlines of all jobs, the nearest first. */
export function GET(): Promise<Response> {
  return answered(async () => answerBy(allDeadlinesSchema, { deadlines: [...(await manyDeadlines())] }));
}
