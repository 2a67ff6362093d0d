import { answered, parseBody } from "@/app/api/respond";
import { can, canRequestSchema } from "@/core/links/can";

export function POST(request: Request): Promise<Response> {
  return answered(async () => {
    const parsed = await parseBody(request, canRequestSchema);
    return parsed.kind === "refused" ? parsed.response : Response.json(can(parsed.value));
  });
}
