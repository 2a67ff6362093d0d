import { answered, parseBody } from "@/app/api/respond";
import { ethernet, ethernetRequestSchema } from "@/core/links/ethernet";

export function POST(request: Request): Promise<Response> {
  return answered(async () => {
    const parsed = await parseBody(request, ethernetRequestSchema);
    return parsed.kind === "refused" ? parsed.response : Response.json(ethernet(parsed.value));
  });
}
