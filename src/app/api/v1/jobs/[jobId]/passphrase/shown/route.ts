import { answerBy, errorResponse } from "@/app/api/respond";
import { withJob, type JobContext } from "@/app/api/v1/jobs/withJob";
import { wifiSecretSchema } from "@/core/online/passphrase/wifiSecret";
import { maybePassphrase } from "@/db/passphrase";
import { NotOpened } from "@/db/sealed";

/** What is kept, on purpose: asked by a POST, so that no address, history or cache ever gives it. */
export function POST(_: Request, context: JobContext): Promise<Response> {
  return withJob(context, async ({ id }) => {
    try {
      const secret = await maybePassphrase(id);
      return secret
        ? answerBy(wifiSecretSchema, secret)
        : errorResponse("not-found", "No passphrase is kept of this job.");
    } catch (error) {
      if (error instanceof NotOpened) return errorResponse("cannot-compute", error.message);
      throw error;
    }
  });
}
