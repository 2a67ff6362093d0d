import { starterPlan, starterSchema } from "@/core/job/starterPlan";
import { computed, importRead } from "@/workers/serverThreads";

/** After so many a thread has compiled what it reads and computes with most. */
const ROUNDS = 8;
const NOBODY = "nobody";

/**
 * Let the threads do what they will be asked for most, so that the first people after a start do not wait for code
 * that runs for the first time.
 */
export async function warmThreads(): Promise<void> {
  const asking = { person: NOBODY, signal: new AbortController().signal };
  const job = starterPlan(starterSchema.parse({ name: "Warm", system: "three-phase", solarKw: 5, solarMeter: true }));
  const file = bytes(job);
  const sheet = bytes({ site: job.site, ...job.tests });
  for (let round = 0; round < ROUNDS; round++) {
    // A thread that fails here is for the first request to tell: the start itself goes on.
    await Promise.allSettled([
      importRead({ body: file, at: new Date().toISOString() }, asking),
      computed("diagnose", sheet, asking),
      computed("predict", sheet, asking),
    ]);
  }
}

function bytes(value: unknown): Uint8Array {
  return new TextEncoder().encode(JSON.stringify(value));
}
