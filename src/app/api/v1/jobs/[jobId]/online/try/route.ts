import { answerBy, errorResponse, parseBody } from "@/app/api/respond";
import { withJob, type JobContext } from "@/app/api/v1/jobs/withJob";
import { benchHost } from "@/bench/benchHost";
import { triedSchema, tryRequestSchema } from "@/core/chain/tried";
import { tryTargets } from "@/core/chain/tryTargets";
import { resolve } from "@/core/plan/resolve";
import { tryNetwork } from "@/reader/tryNetwork";

/** Try a device's way to its service from this machine: only what the plan names is asked. */
export function POST(request: Request, context: JobContext): Promise<Response> {
  return withJob(context, async ({ id, document }) => {
    const parsed = await parseBody(request, tryRequestSchema);
    if (parsed.kind === "refused") return parsed.response;
    const { device, onBench } = parsed.value;
    const status = onBench ? await benchHost().status(id) : undefined;
    if (onBench && !status) return errorResponse("not-found", "No bench of this job runs.");
    const plan = resolve(document);
    const address = status?.online.find((own) => own.device === device)?.address ?? undefined;
    const targets = tryTargets(plan, device, status?.bench.network, address);
    if (!targets)
      return errorResponse("invalid", "Nothing can be tried.", [
        { path: ["device"], message: `no device "${device}" of this plan is seen from outside` },
      ]);
    return answerBy(triedSchema, { at: new Date().toISOString(), tried: [...(await tryNetwork(targets, plan))] });
  });
}
