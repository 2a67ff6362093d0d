import { Worker } from "node:worker_threads";
import { asking } from "@/app/api/asking";
import { errorResponse, fromThread } from "@/app/api/respond";
import type { LabelsAsked, Printed, ReportAsked, WiringAsked } from "@/app/threads/printTasks";
import { threadPool, type ThreadPool } from "@/workers/pool/threadPool";
import type { ThreadOutcome } from "@/workers/serverThreads";

const LIMITS = { threads: 1, perPerson: 1, waitingPerPerson: 3, waiting: 12, timeMs: 15_000 };
const MEMORY = { maxOldGenerationSizeMb: 640, maxYoungGenerationSizeMb: 64 };

// Next.js loads modules anew on every change while developing; the thread must outlive that.
const kept = globalThis as typeof globalThis & { gormitPrinting?: ThreadPool };

/** Print in a thread, and show the browser the PDF. */
export async function printResponse(
  request: Request,
  task:
    | { readonly name: "labels"; readonly input: LabelsAsked }
    | { readonly name: "wiring"; readonly input: WiringAsked }
    | { readonly name: "report"; readonly input: ReportAsked },
): Promise<Response> {
  kept.gormitPrinting ??= threadPool(
    () => new Worker(new URL("./print.server.ts", import.meta.url), { resourceLimits: MEMORY }),
    LIMITS,
  );
  const { person, signal } = asking(request);
  const outcome = fromThread((await kept.gormitPrinting.run(task, person, signal)) as ThreadOutcome<Printed>);
  if (outcome.kind === "refused") return outcome.response;
  if (outcome.value.kind === "nothing") return errorResponse("cannot-compute", outcome.value.message);
  const { kind, bytes } = outcome.value;
  return new Response(Buffer.from(bytes), {
    headers: {
      "content-type": `application/${kind}`,
      "content-disposition": `inline; filename="${task.name}.${kind}"`,
      "cache-control": "private, no-store",
    },
  });
}
