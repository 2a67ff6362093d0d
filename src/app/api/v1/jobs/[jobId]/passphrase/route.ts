import { answerBy, parseBody } from "@/app/api/respond";
import { withJob, type JobContext } from "@/app/api/v1/jobs/withJob";
import { keptSecretSchema, wifiSecretSchema } from "@/core/online/passphrase/wifiSecret";
import { forgetPassphrase, keepPassphrase, maybePassphraseTime } from "@/db/passphrase";

/** Whether a passphrase is kept; never what it is. */
export function GET(_: Request, context: JobContext): Promise<Response> {
  return withJob(context, async ({ id }) =>
    answerBy(keptSecretSchema, { keptAt: (await maybePassphraseTime(id))?.toISOString() ?? null }),
  );
}

/** Keep it, encrypted, in place of the one before. */
export function PUT(request: Request, context: JobContext): Promise<Response> {
  return withJob(context, async ({ id }) => {
    const parsed = await parseBody(request, wifiSecretSchema);
    if (parsed.kind === "refused") return parsed.response;
    return answerBy(keptSecretSchema, { keptAt: (await keepPassphrase(id, parsed.value)).toISOString() });
  });
}

/** Keep it no longer. */
export function DELETE(_: Request, context: JobContext): Promise<Response> {
  return withJob(context, async ({ id }) => {
    await forgetPassphrase(id);
    return new Response(null, { status: 204 });
  });
}
