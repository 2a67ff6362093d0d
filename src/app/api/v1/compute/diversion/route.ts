import { breathing } from "@/app/api/breathing";
import { answered, parseBody } from "@/app/api/respond";
import { diversionInSlices } from "@/core/control/diversion";
import { diversionRequestSchema } from "@/core/control/diversionSchema";

/** A year of values at a minute is about four megabytes of digits. */
const MAX_SERIES_BYTES = 8_000_000;

export function POST(request: Request): Promise<Response> {
  return answered(async () => {
    const parsed = await parseBody(request, diversionRequestSchema, MAX_SERIES_BYTES);
    return parsed.kind === "refused" ? parsed.response : Response.json(await breathing(diversionInSlices(parsed.value), request.signal));
  });
}
