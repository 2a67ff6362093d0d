import { breathing } from "@/app/api/breathing";
import { answered, errorResponse, parseBody } from "@/app/api/respond";
import { diagnoseInSlices, diagnoseRequestSchema } from "@/core/flows/diagnose";

export function POST(request: Request): Promise<Response> {
  return answered(async () => {
    const parsed = await parseBody(request, diagnoseRequestSchema);
    if (parsed.kind === "refused") return parsed.response;
    const { site, ...sheet } = parsed.value;
    const outcome = await breathing(diagnoseInSlices(site, sheet), request.signal);
    if (outcome.kind === "diagnosed") return Response.json(outcome.diagnosis);
    return errorResponse("cannot-compute", `${outcome.combinations} combinations of faults are more than the ${outcome.limit} that are looked at.`,
      [{ path: ["maxFaults"], message: "lower maxFaults, or diagnose one meter at a time" }]);
  });
}
