import { answered, parseBody } from "@/app/api/respond";
import { exportLimit } from "@/core/control/exportLimit";
import { exportLimitRequestSchema } from "@/core/control/exportLimitSchema";

export function POST(request: Request): Promise<Response> {
  return answered(async () => {
    const parsed = await parseBody(request, exportLimitRequestSchema);
    return parsed.kind === "refused" ? parsed.response : Response.json(exportLimit(parsed.value));
  });
}
