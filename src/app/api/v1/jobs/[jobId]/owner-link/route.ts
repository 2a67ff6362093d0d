import { answerBy } from "@/app/api/respond";
import { withJob, type JobContext } from "@/app/api/v1/jobs/withJob";
import { privateLinkSchema } from "@/core/handover/privateLink";
import { endOwnerLink, makeOwnerLink, maybeOwnerLinkTime } from "@/db/ownerLink";

/** Whether the owner has a link, and since when. */
export function GET(_: Request, context: JobContext): Promise<Response> {
  return withJob(context, async ({ id }) => answerBy(privateLinkSchema, { madeAt: await madeAt(id) }));
}

/** A new link, in place of the one before, which ends. */
export function POST(_: Request, context: JobContext): Promise<Response> {
  return withJob(context, async ({ id }) => {
    const path = `/owner/${await makeOwnerLink(id)}`;
    return answerBy(privateLinkSchema, { madeAt: await madeAt(id), path }, { status: 201 });
  });
}

/** End the link. */
export function DELETE(_: Request, context: JobContext): Promise<Response> {
  return withJob(context, async ({ id }) => {
    await endOwnerLink(id);
    return new Response(null, { status: 204 });
  });
}

async function madeAt(jobId: string): Promise<string | null> {
  return (await maybeOwnerLinkTime(jobId))?.toISOString() ?? null;
}
