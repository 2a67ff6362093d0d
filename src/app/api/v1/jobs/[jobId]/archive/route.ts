import { answered, errorResponse } from "@/app/api/respond";
import { archiveJob } from "@/db/job";

interface Context {
  readonly params: Promise<{ jobId: string }>;
}

export function PUT(_: Request, { params }: Context): Promise<Response> {
  return answered(async () => moved((await params).jobId, true));
}

export function DELETE(_: Request, { params }: Context): Promise<Response> {
  return answered(async () => moved((await params).jobId, false));
}

async function moved(jobId: string, isArchived: boolean): Promise<Response> {
  return (await archiveJob(jobId, isArchived))
    ? new Response(null, { status: 204 })
    : errorResponse("not-found", "There is no job of this id.");
}
