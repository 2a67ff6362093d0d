import { randomUUID } from "node:crypto";
import { readdirSync, readFileSync } from "node:fs";
import { afterEach, describe, expect, it } from "vitest";
import { benchHost } from "@/bench/benchHost";
import { benchSpec } from "../../tests/fixtures/benchSpec";
import { jobFromPattern } from "../../tests/fixtures/shipped";

const document = jobFromPattern("three-phase-storage");
const jobs: string[] = [];

afterEach(() => {
  for (const job of jobs.splice(0)) benchHost().end(job);
});

async function started(): Promise<string> {
  const job = randomUUID();
  jobs.push(job);
  const outcome = await benchHost().start(job, benchSpec(document));
  expect(outcome.kind).toBe("started");
  return job;
}

/** The processes of benches that this one started. */
function processes(): readonly number[] {
  return readdirSync("/proc")
    .filter((name) => /^\d+$/.test(name))
    .filter((pid) => {
      try {
        const parent = /^PPid:\s+(\d+)$/m.exec(readFileSync(`/proc/${pid}/status`, "utf8"))?.[1];
        return Number(parent) === process.pid && readFileSync(`/proc/${pid}/cmdline`, "utf8").includes("bench/process");
      } catch {
        // It ended while it was looked at.
        return false;
      }
    })
    .map(Number);
}

describe("the benches of the app", () => {
  it("are a process each, of which a job has one, and there are at most four", async () => {
    const job = await started();
    await Promise.all([started(), started(), started()]);
    expect(processes()).toHaveLength(4);
    expect(await benchHost().start(randomUUID(), benchSpec(document))).toEqual({ kind: "too-many" });
    expect((await benchHost().start(job, benchSpec(document))).kind).toBe("started");
    expect(benchHost().end(job)).toBe(true);
    expect(benchHost().end(job)).toBe(false);
  });

  it("are one a job, and one process, where two tabs start it at once", async () => {
    const job = randomUUID();
    jobs.push(job);
    await Promise.all([benchHost().start(job, benchSpec(document)), benchHost().start(job, benchSpec(document))]);
    await expect.poll(() => processes().length, { timeout: 10_000 }).toBe(1);
    expect((await benchHost().status(job))?.cards.length).toBeGreaterThan(0);
  });

  it("are gone, and say so, when their process is killed in the middle of a question", async () => {
    const job = await started();
    expect((await benchHost().status(job))?.cards.length).toBeGreaterThan(0);
    const asked = benchHost().status(job);
    for (const pid of processes()) process.kill(pid, "SIGKILL");
    await asked;
    await expect.poll(() => benchHost().benchOf(job)).toBeUndefined();
    expect(await benchHost().status(job)).toBeUndefined();
    expect(await benchHost().change(job, { timeFactor: 10 })).toBeUndefined();
  });

  it("say when faults cannot be there together, and change nothing", async () => {
    const job = await started();
    const { id, inputs } = document.site.meters[0]!;
    const run = document.site.nodes.find(({ phases }) => phases?.length === 1 && phases[0] === "L1")!.id;
    const at = { meter: id, input: inputs[0]!.n };
    const faults = [
      { kind: "wrong-phase" as const, ...at, conductor: "L2" as const },
      { kind: "wrong-run" as const, ...at, run },
    ];
    expect(await benchHost().change(job, { faults, timeFactor: 60 })).toBe("impossible");
    expect(await benchHost().status(job)).toMatchObject({ timeFactor: 1, faults: [] });
  });
});
