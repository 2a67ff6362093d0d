import { asking } from "@/app/api/asking";
import { answered, errorResponse, fromThread, MAX_BODY_BYTES, readJsonBytes } from "@/app/api/respond";
import type { ComputeName } from "@/workers/computeTasks";
import { computed } from "@/workers/serverThreads";

/**
 * A compute route: its body goes to a thread, and the answer of the thread to whoever asked, with about what it cost.
 */
export function computeRoute(name: ComputeName, limitBytes = MAX_BODY_BYTES): (request: Request) => Promise<Response> {
  return (request) =>
    answered(async () => {
      const body = await readJsonBytes(request, limitBytes);
      if (body.kind === "refused") return body.response;
      const outcome = fromThread(await computed(name, body.value, asking(request)));
      if (outcome.kind === "refused") return outcome.response;
      const answer = outcome.value;
      if (answer.kind === "problem") return errorResponse(answer.code, answer.message, answer.problems, answer.more);
      return new Response(answer.json, {
        headers: {
          "content-type": "application/json",
          "cache-control": "private, no-store",
          "x-gormit-cost-ms": String(Math.ceil(answer.costMs)),
        },
      });
    });
}
