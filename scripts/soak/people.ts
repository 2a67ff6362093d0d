import { say } from "../lib/say.mjs";
import type { JobDocument } from "@/core/job/jobDocument";
import { asBrowser, demo, note, pause, quantile, REQUEST_TIMEOUT_MS, send, start, type Ground } from "./ground";

/**
 * Fifty technicians for three minutes: a save each 5 s, an entry each 3 s (every other one moves a step, so that the
 * job's line in the list is due), a look each 5 s, the list and a diagnosis each 20 s.
 */
export async function people({ app, share }: Ground): Promise<void> {
  const base = demo();
  const times = {
    save: [] as number[],
    entry: [] as number[],
    look: [] as number[],
    list: [] as number[],
    diagnosis: [] as number[],
  };
  const failures = new Map<string, number>();
  const until = Date.now() + 180_000 * share;
  const technician = async (number: number) => {
    const job = (await (
      await send(app, "POST", "/jobs/import", { ...base, job: { ...base.job, name: `Soak ${number}` } }, number)
    ).json()) as { id: string; revision: number; document: JobDocument };
    let { revision } = job;
    let sent = 0;
    const every = async (periodMs: number, kind: keyof typeof times, work: () => Promise<Response>) => {
      await pause(Math.random() * periodMs);
      while (Date.now() < until) {
        const began = performance.now();
        const status = await work().then(
          async (response) => {
            await response.arrayBuffer();
            return response.status;
          },
          () => 0,
        );
        times[kind].push(performance.now() - began);
        if (status !== 200) failures.set(`${kind} ${status}`, (failures.get(`${kind} ${status}`) ?? 0) + 1);
        await pause(Math.max(0, periodMs - (performance.now() - began)));
      }
    };
    await Promise.all([
      every(5_000, "save", async () => {
        const response = await send(
          app,
          "PUT",
          `/jobs/${job.id}`,
          { revision, document: { ...job.document, packed: [`p${revision}`] }, person: `T${number}` },
          number,
        );
        const saved = (await response.clone().json()) as { revision?: number };
        revision = saved.revision ?? revision;
        return response;
      }),
      every(3_000, "entry", () => {
        const entry = sent++ % 2 === 0 ? note(number) : start(number);
        return send(app, "POST", `/jobs/${job.id}/visit`, { entries: [entry] }, number);
      }),
      every(20_000, "list", () =>
        fetch(`${app.address}/api/v1/jobs`, {
          headers: asBrowser(number),
          signal: AbortSignal.timeout(REQUEST_TIMEOUT_MS),
        }),
      ),
      every(5_000, "look", () =>
        fetch(`${app.address}/jobs/${job.id}/prove`, {
          headers: asBrowser(number),
          signal: AbortSignal.timeout(REQUEST_TIMEOUT_MS),
        }),
      ),
      every(20_000, "diagnosis", () =>
        send(app, "POST", "/compute/diagnose", { site: base.site, ...base.tests }, number),
      ),
    ]);
  };
  await Promise.all(Array.from({ length: 50 }, (_, number) => technician(number)));
  for (const [kind, values] of Object.entries(times))
    say(
      `people: ${kind}: ${values.length} requests, median ${quantile(values, 0.5)} ms, p99 ${quantile(values, 0.99)} ` +
        `ms, longest ${quantile(values, 1)} ms`,
    );
  say(
    "people: not 200: " +
      `${failures.size === 0 ? "none" : [...failures].map(([what, count]) => `${what} × ${count}`).join(", ")}`,
  );
}
