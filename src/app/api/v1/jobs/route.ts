import { answered, parseBody } from "@/app/api/respond";
import { starterPlan, starterSchema } from "@/core/job/starterPlan";
import { createJob, manyJobs } from "@/db/job";

export function GET(): Promise<Response> {
  return answered(async () => Response.json({ jobs: await manyJobs() }));
}

export function POST(request: Request): Promise<Response> {
  return answered(async () => {
    const parsed = await parseBody(request, starterSchema);
    if (parsed.kind === "refused") return parsed.response;
    return Response.json(await createJob(starterPlan(parsed.value)), { status: 201 });
  });
}
