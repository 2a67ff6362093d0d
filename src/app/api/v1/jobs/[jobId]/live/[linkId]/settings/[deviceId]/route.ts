import { answerBy, errorResponse } from "@/app/api/respond";
import { withJob } from "@/app/api/v1/jobs/withJob";
import { settingsReadSchema } from "@/core/live/liveSchema";
import { readerHost } from "@/reader/readerHost";

interface Context {
  readonly params: Promise<{ jobId: string; linkId: string; deviceId: string }>;
}

/** How a device is set, as it says itself: read now, never written. */
export function GET(_: Request, context: Context): Promise<Response> {
  return withJob(context, async ({ id }) => {
    const { deviceId } = await context.params;
    const values = await readerHost().settings(id, deviceId);
    return values
      ? answerBy(settingsReadSchema, { device: deviceId, values: [...values] })
      : errorResponse("not-found", "This device is not read by Modbus, or it does not answer.");
  });
}
