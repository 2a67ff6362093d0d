import { answerBy, answered } from "@/app/api/respond";
import { adaptersSchema } from "@/core/live/liveSchema";
import { adapters } from "@/reader/adapters";

/** The serial adapters of the machine that Gormit runs on. */
export function GET(): Promise<Response> {
  return answered(async () => answerBy(adaptersSchema, { adapters: [...(await adapters())] }));
}
