import { answerBy } from "@/app/api/respond";
import { withJob, type JobContext } from "@/app/api/v1/jobs/withJob";
import { chainCheckSchema } from "@/core/handover/logChain";
import { checkedLog } from "@/db/visitChain";

/** Whether the log of a job is as it was written, line by line. */
export function GET(_: Request, context: JobContext): Promise<Response> {
  return withJob(context, async ({ id }) => answerBy(chainCheckSchema, await checkedLog(id)));
}
