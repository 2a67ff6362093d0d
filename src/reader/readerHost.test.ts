import { randomUUID } from "node:crypto";
import { afterEach, describe, expect, it } from "vitest";
import { RunningBench } from "@/bench/process/runningBench";
import { readerHost } from "@/reader/readerHost";
import { benchOfJob } from "@/core/bench/benchOfJob";
import { readLineLog } from "@/core/links/bus/lineLog";
import { resolve } from "@/core/plan/resolve";
import { benchSpec } from "../../tests/fixtures/benchSpec";
import { jobFromPattern } from "../../tests/fixtures/shipped";

const document = jobFromPattern("three-phase-storage");
const plan = resolve(document);
const { link } = benchOfJob(document).lines.find(({ units }) => units.some(({ meter }) => meter))!;
const open: (() => Promise<unknown>)[] = [];

afterEach(async () => {
  for (const close of open.splice(0).toReversed()) await close();
});

async function bench(): Promise<RunningBench> {
  const own = await RunningBench.start(benchSpec(document, { noise: true }));
  open.push(() => own.close());
  return own;
}

function lineOf(own: RunningBench, protocol: "modbus-tcp" | "rtu-over-tcp") {
  return own.bench().lines.find((line) => line.link === link && line.protocol === protocol)!;
}

async function connected(own: RunningBench, protocol: "modbus-tcp" | "rtu-over-tcp" = "modbus-tcp"): Promise<string> {
  const job = randomUUID();
  const { host, port } = lineOf(own, protocol);
  const outcome = await readerHost().connect(job, plan, document.kits, { link, way: { kind: protocol, host, port } });
  expect(outcome).toMatchObject({ link });
  open.push(() => readerHost().disconnect(job, link));
  return job;
}

const askedOf = (own: RunningBench) => own.status().cards.find((card) => card.link === link)!.asked;

describe("what is read of all jobs", () => {
  it("asks a line once, however many pages look at it", async () => {
    const own = await bench();
    const job = await connected(own);
    const told = Array.from({ length: 50 }, () => 0);
    const rounds = new Set<number>();
    const stops = told.map((_, page) =>
      readerHost().watch(job, (state) => {
        told[page]!++;
        if ("cycleMs" in state && state.cycleMs !== undefined) rounds.add(state.cycleMs);
      }),
    );
    await expect.poll(() => rounds.size, { timeout: 10_000 }).toBeGreaterThan(4);
    stops.forEach((stop) => stop());
    expect(new Set(told).size).toBe(1);
    // Two blocks a round at most, and a round may be under way: not one for each page.
    expect(askedOf(own)).toBeLessThanOrEqual((rounds.size + 2) * 2);
  });

  it("is refused without a register list, and at addresses, names and adapters that are not the job's", async () => {
    const ask = (way: Parameters<ReturnType<typeof readerHost>["connect"]>[3]["way"], at = link) =>
      readerHost().connect(randomUUID(), plan, document.kits, { link: at, way });
    expect(await ask({ kind: "modbus-tcp", host: "127.0.0.1", port: 47_001 }, "no-link")).toMatchObject({
      path: ["link"],
    });
    expect(await ask({ kind: "modbus-tcp", host: "8.8.8.8", port: 47_001 })).toMatchObject({ path: ["way", "host"] });
    expect(await ask({ kind: "modbus-tcp", host: "nowhere.invalid", port: 47_001 })).toMatchObject({
      message: "nobody knows the name nowhere.invalid",
    });
    expect(await ask({ kind: "serial", path: "/etc/passwd" })).toMatchObject({ path: ["way", "path"] });
  });

  it("gives what was read since a moment, how a device is set, and nothing once it is not read any more", async () => {
    const own = await bench();
    const job = await connected(own);
    await expect.poll(() => readerHost().samples(job, link, 0)?.length ?? 0).toBeGreaterThan(6);
    const last = readerHost().samples(job, link, 0)!.at(-1)!;
    expect(readerHost().samples(job, link, last.atMs + 60_000)).toEqual([]);
    const device = readerHost()
      .links(job)[0]!
      .devices.find(({ meter }) => meter)!.device;
    expect((await readerHost().settings(job, device))?.some(({ of }) => of === "ratio")).toBe(true);
    expect(await readerHost().disconnect(job, link)).toBe(true);
    expect(readerHost().samples(job, link, 0)).toBeUndefined();
    expect(await readerHost().settings(job, device)).toBeUndefined();
    expect(readerHost().find(job, link)).toBe(false);
  });

  it("goes on on a line where another client asks too, and hears that client without asking", async () => {
    const own = await bench();
    const job = await connected(own, "rtu-over-tcp");
    await own.change({ faults: [{ kind: "second-client", link }] });
    const { host, port } = lineOf(own, "rtu-over-tcp");
    const heard = await readerHost().listen(plan, link, { way: { kind: "rtu-over-tcp", host, port }, seconds: 5 });
    expect(typeof heard === "string" && readLineLog(heard).frames.length).toBeGreaterThan(0);
    await own.change({ faults: [] });
    await expect
      .poll(
        () =>
          readerHost()
            .links(job)[0]!
            .devices.find(({ meter }) => meter)!.state,
        { timeout: 10_000 },
      )
      .toBe("answers");
  });
});
