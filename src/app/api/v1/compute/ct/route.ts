import { answered, parseBody } from "@/app/api/respond";
import { computeCt, ctRequestSchema } from "@/core/sensing/computeCt";

export function POST(request: Request): Promise<Response> {
  return answered(async () => {
    const parsed = await parseBody(request, ctRequestSchema);
    return parsed.kind === "refused" ? parsed.response : Response.json(computeCt(parsed.value));
  });
}
