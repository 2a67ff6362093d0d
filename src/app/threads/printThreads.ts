import { Worker } from "node:worker_threads";
import { asking } from "@/app/api/asking";
import { errorResponse, fromThread, type Parsed } from "@/app/api/respond";
import type {
  HandedOverAsked,
  LabelsAsked,
  OwnerSheetAsked,
  Printed,
  ReportAsked,
  WiringAsked,
} from "@/app/threads/printTasks";
import { threadPool, type ThreadPool } from "@/workers/pool/threadPool";
import type { ThreadOutcome } from "@/workers/serverThreads";

/** A thread lays every sign out before it prints first: whoever hands over prints more than once. */
const LIMITS = { threads: 1, perPerson: 1, waitingPerPerson: 3, waiting: 12, timeMs: 15_000, keepMs: 15 * 60_000 };
const MEMORY = { maxOldGenerationSizeMb: 640, maxYoungGenerationSizeMb: 64 };

// Next.js loads modules anew on every change while developing; the thread must outlive that.
const kept = globalThis as typeof globalThis & { gormitPrinting?: ThreadPool };

/** Something to print. */
type PrintTask =
  | { readonly name: "labels"; readonly input: LabelsAsked }
  | { readonly name: "wiring"; readonly input: WiringAsked }
  | { readonly name: "report"; readonly input: ReportAsked }
  | { readonly name: "owner"; readonly input: OwnerSheetAsked }
  | { readonly name: "handed-over"; readonly input: HandedOverAsked };
type PrintedBytes = Extract<Printed, { bytes: Uint8Array }>;

function printing(): ThreadPool {
  kept.gormitPrinting ??= threadPool(
    () => new Worker(new URL("./print.server.ts", import.meta.url), { resourceLimits: MEMORY }),
    LIMITS,
  );
  return kept.gormitPrinting;
}

/** Have the thread ready before somebody prints: laying every sign out takes it seconds. */
export async function warmPrinting(): Promise<void> {
  // One that fails here is for the first who prints to be told.
  await printing()
    .run({ name: "warm", input: undefined }, "nobody", new AbortController().signal)
    .catch(() => undefined);
}

/** Print in a thread, and show the browser the PDF. */
export async function printResponse(request: Request, task: PrintTask): Promise<Response> {
  const printed = await printedBytes(request, task);
  if (printed.kind === "refused") return printed.response;
  const { kind, bytes } = printed.value;
  return new Response(Buffer.from(bytes), {
    headers: {
      "content-type": `application/${kind}`,
      "content-disposition": `inline; filename="${task.name}.${kind}"`,
      "cache-control": "private, no-store",
    },
  });
}

/** Print in a thread; refused where too much is going on, or there is nothing to print. */
export async function printedBytes(request: Request, task: PrintTask): Promise<Parsed<PrintedBytes>> {
  const { person, signal } = asking(request);
  const outcome = fromThread((await printing().run(task, person, signal)) as ThreadOutcome<Printed>);
  if (outcome.kind === "refused") return outcome;
  if (outcome.value.kind === "nothing")
    return { kind: "refused", response: errorResponse("cannot-compute", outcome.value.message) };
  return { kind: "ok", value: outcome.value };
}
