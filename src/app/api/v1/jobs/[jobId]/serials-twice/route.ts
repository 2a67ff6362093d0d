import { answerBy } from "@/app/api/respond";
import { withJob, type JobContext } from "@/app/api/v1/jobs/withJob";
import { serialsTwiceSchema } from "@/core/handover/registration/serialTwice";
import { manySerialsTwice } from "@/db/deadline";

/** Serial numbers of the job that were recorded for another device too. */
export function GET(_: Request, context: JobContext): Promise<Response> {
  return withJob(context, async ({ id }) => answerBy(serialsTwiceSchema, { twice: [...(await manySerialsTwice(id))] }));
}
