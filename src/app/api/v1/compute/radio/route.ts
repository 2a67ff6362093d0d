import { answered, parseBody } from "@/app/api/respond";
import { radio, radioRequestSchema } from "@/core/links/radio";

export function POST(request: Request): Promise<Response> {
  return answered(async () => {
    const parsed = await parseBody(request, radioRequestSchema);
    return parsed.kind === "refused" ? parsed.response : Response.json(radio(parsed.value));
  });
}
