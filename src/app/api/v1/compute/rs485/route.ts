import { answered, parseBody } from "@/app/api/respond";
import { rs485 } from "@/core/links/rs485";
import { rs485RequestSchema } from "@/core/links/rs485Schema";

export function POST(request: Request): Promise<Response> {
  return answered(async () => {
    const parsed = await parseBody(request, rs485RequestSchema);
    return parsed.kind === "refused" ? parsed.response : Response.json(rs485(parsed.value));
  });
}
