import { breathing } from "@/app/api/breathing";
import { answered, errorResponse, parseBody } from "@/app/api/respond";
import { scheduleInSlices } from "@/core/procedure/schedule/schedule";
import { scheduleRequestSchema } from "@/core/procedure/schedule/scheduleSchema";

export function POST(request: Request): Promise<Response> {
  return answered(async () => {
    const parsed = await parseBody(request, scheduleRequestSchema);
    if (parsed.kind === "refused") return parsed.response;
    const outcome = await breathing(scheduleInSlices(parsed.value), request.signal);
    if (outcome.kind === "schedule") return Response.json(outcome.schedule);
    return errorResponse("cannot-compute", `The needs lead in a circle: ${outcome.steps.join(", ")}.`, [{ path: ["steps"], message: `${outcome.steps.join(" needs ")} needs ${outcome.steps[0]}` }]);
  });
}
