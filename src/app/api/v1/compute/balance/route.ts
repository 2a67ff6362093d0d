import { answered, parseBody } from "@/app/api/respond";
import { balance, balanceRequestSchema } from "@/core/flows/balance";

export function POST(request: Request): Promise<Response> {
  return answered(async () => {
    const parsed = await parseBody(request, balanceRequestSchema);
    return parsed.kind === "refused" ? parsed.response : Response.json(balance(parsed.value.values));
  });
}
