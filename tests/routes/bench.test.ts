import { randomUUID } from "node:crypto";
import ModbusRTU from "modbus-serial";
import { afterEach, describe, expect, it } from "vitest";
import type { Bench, BenchStatus } from "@/core/bench/benchSchema";
import type { ErrorAnswer } from "@/core/answers/errorAnswer";
import { predict } from "@/core/flows/predict";
import type { LiveLink } from "@/core/live/liveSchema";
import { decodeRegister } from "@/core/kits/registerValue";
import { REGISTER_WORDS } from "@/core/kits/registerSchema";
import { meterLineOf } from "../fixtures/benchSpec";
import { jobFromPattern } from "../fixtures/shipped";
import { fromTestRun } from "../setup/environment";

const app = fromTestRun("GORMIT_TEST_APP");
const started: { readonly job: string; readonly bench: string }[] = [];

afterEach(async () => {
  for (const { job, bench } of started.splice(0)) await call("DELETE", `/jobs/${job}/bench/${bench}`);
});

async function call<T>(method: string, path: string, body?: unknown): Promise<{ status: number; body: T }> {
  const response = await fetch(`${app}/api/v1${path}`, {
    method,
    headers: { "content-type": "application/json" },
    ...(body === undefined ? {} : { body: JSON.stringify(body) }),
  });
  return { status: response.status, body: (response.status === 204 ? undefined : await response.json()) as T };
}

async function newJob(pattern = "three-phase-storage"): Promise<string> {
  const { status, body } = await call<{ id: string }>("POST", "/jobs/import", jobFromPattern(pattern));
  expect(status).toBe(201);
  return body.id;
}

async function benchOf(job: string, request: object = {}): Promise<Bench> {
  const { status, body } = await call<Bench>("POST", `/jobs/${job}/bench`, request);
  expect(status).toBe(201);
  started.push({ job, bench: body.id });
  return body;
}

/** What any client reads of the first input's power. */
async function firstPower(bench: Bench): Promise<number> {
  const line = meterLineOf(bench);
  const { unit, registers } = line.units.find(({ meter }) => meter)!;
  const register = registers.find(({ of, input }) => of === "power" && input === 1)!;
  const client = new ModbusRTU();
  await client.connectTCP(line.host, { port: line.port });
  client.setTimeout(2_000);
  client.setID(unit);
  const count = REGISTER_WORDS[register.type];
  const { data } = await (register.table === "input"
    ? client.readInputRegisters(register.address, count)
    : client.readHoldingRegisters(register.address, count));
  await new Promise<void>((closed) => client.close(() => closed()));
  return decodeRegister(data, register);
}

describe("what is begun at the devices of a bench", () => {
  it("goes on in the bench's time to its end, and what no device can do is refused by name", async () => {
    const pattern = "diverter-and-hub";
    const job = await newJob(pattern);
    const bench = await benchOf(job, { fitting: "planned", timeFactor: 600 });
    const change = (body: object) => call<BenchStatus & ErrorAnswer>("PATCH", `/jobs/${job}/bench/${bench.id}`, body);
    const { body } = await change({});
    expect(body.acts.length).toBeGreaterThan(0);
    const [act] = body.acts;
    expect(act!.state).toBe("idle");
    const begun = await change({ acts: [{ device: act!.device, kind: act!.kind }] });
    expect(begun.body.acts[0]!.state).not.toBe("idle");
    await expect
      .poll(async () => (await change({})).body.acts[0]!.state, { timeout: 20_000, interval: 100 })
      .toMatch(/good|bad/);
    const refused = await change({ acts: [{ device: "nobody", kind: "pairing" }] });
    expect(refused.status).toBe(400);
    expect(refused.body.error.issues[0]).toMatchObject({ path: "acts[0]", message: '"nobody" has no pairing' });
  });
});

describe("the bench of a job", () => {
  it("is read by any client, follows what is switched and planted, and is gone when it is ended", async () => {
    const job = await newJob();
    const { site } = jobFromPattern("three-phase-storage");
    const bench = await benchOf(job, { fitting: "planned", noise: false });
    const devices = [{ node: site.nodes.find(({ kind }) => kind === "load")!.id, powerW: 2400, reactiveVar: 0 }];
    const change = (more: object) => call<BenchStatus>("PATCH", `/jobs/${job}/bench/${bench.id}`, more);
    expect((await change({ state: { devices } })).status).toBe(200);
    const { powerW } = predict(site, "planned", { devices }).inputs[0]!;
    expect(await firstPower(bench)).toBeCloseTo(powerW, 1);
    const meter = site.meters[0]!.id;
    const turned = await change({ faults: [{ kind: "reversed", meter, input: 1 }], timeFactor: 60 });
    expect(turned.body).toMatchObject({ timeFactor: 60, devices: [{ powerW: 2400 }] });
    expect(await firstPower(bench)).toBeCloseTo(-powerW, 1);
    expect((await call("DELETE", `/jobs/${job}/bench/${bench.id}`)).status).toBe(204);
    // Its process may take the connection while it ends; an answer it gives no more.
    await expect(firstPower(bench)).rejects.toThrow();
    expect((await call<{ running: unknown }>("GET", `/jobs/${job}/bench`)).body).toEqual({ running: null });
  });

  it("says with its path what is wrong with a request, and starts or changes nothing", async () => {
    const job = await newJob();
    const refused = await call<ErrorAnswer>("POST", `/jobs/${job}/bench`, {
      fitting: { faults: [{ kind: "device-dead", device: "nobody" }] },
    });
    expect(refused.status).toBe(400);
    expect(refused.body.error.issues).toEqual([
      { path: "fitting.faults[0].device", message: 'there is no device "nobody"' },
    ]);
    expect((await call("POST", `/jobs/${job}/bench`, { timeFactor: 0 })).status).toBe(400);
    expect((await call("POST", `/jobs/${randomUUID()}/bench`, {})).status).toBe(404);
    expect((await call<{ running: unknown }>("GET", `/jobs/${job}/bench`)).body.running).toBeNull();
    const bench = await benchOf(job, { noise: false });
    const wrong = await call<ErrorAnswer>("PATCH", `/jobs/${job}/bench/${bench.id}`, {
      state: { devices: [{ node: "nobody", powerW: 1 }] },
    });
    expect(wrong.body.error.issues[0]?.path).toBe("state.devices[0].node");
    expect((await call("PATCH", `/jobs/${job}/bench/${randomUUID()}`, {})).status).toBe(404);
  });

  it("takes the place of the one before it, and there are at most four", async () => {
    const jobs = [await newJob(), await newJob(), await newJob(), await newJob(), await newJob()];
    const first = await benchOf(jobs[0]!);
    expect((await benchOf(jobs[0]!)).id).not.toBe(first.id);
    for (const job of jobs.slice(1, 4)) await benchOf(job);
    const fifth = await call<ErrorAnswer>("POST", `/jobs/${jobs[4]!}/bench`, {});
    expect(fifth.status).toBe(429);
    expect(fifth.body.error.message).toContain("Four benches");
  });
});

describe("what is read of a job's links", () => {
  it("comes as events: all of it first, then each change, and that a link is read no more", async () => {
    const job = await newJob();
    const bench = await benchOf(job, { fitting: "planned" });
    const { link, host, port, protocol } = meterLineOf(bench);
    const events = eventsOf(job);
    expect(await events.next()).toEqual({ event: "all", data: { links: [] } });
    const connected = await call<LiveLink>("POST", `/jobs/${job}/live`, { link, way: { kind: protocol, host, port } });
    expect(connected.status).toBe(201);
    const answers = async (): Promise<LiveLink> => {
      for (;;) {
        const { event, data } = await events.next();
        const own = data as LiveLink;
        if (event === "link" && own.devices.some(({ meter, state }) => meter && state === "answers")) return own;
      }
    };
    expect((await answers()).devices.find(({ meter }) => meter)!.values.some(({ of }) => of === "power")).toBe(true);
    const late = eventsOf(job);
    expect(await late.next()).toMatchObject({ event: "all", data: { links: [{ link }] } });
    await late.close();
    expect((await call("DELETE", `/jobs/${job}/live/${link}`)).status).toBe(204);
    for (let own = await events.next(); own.event !== "gone"; own = await events.next()) expect(own.event).toBe("link");
    await events.close();
    expect((await call<{ links: unknown[] }>("GET", `/jobs/${job}/live`)).body.links).toEqual([]);
  });

  it("is refused with its path where it may not be, and told apart from what is not there", async () => {
    const job = await newJob();
    const ask = (link: string, way: object) => call<ErrorAnswer>("POST", `/jobs/${job}/live`, { link, way });
    const foreign = await ask("rs485-1", { kind: "modbus-tcp", host: "8.8.8.8", port: 47_001 });
    expect(foreign.body.error.issues[0]).toMatchObject({ path: "way.host" });
    expect((await ask("rs485-1", { kind: "modbus-tcp", host: "127.0.0.1", port: 0 })).status).toBe(400);
    expect((await ask("rs485-1", { kind: "telnet", host: "127.0.0.1", port: 1 })).status).toBe(400);
    const device = await ask("rs485-1", { kind: "serial", path: "/etc/hostname" });
    expect(device.body.error.issues[0]).toMatchObject({ path: "way.path" });
    for (const [method, path] of [
      ["DELETE", "rs485-1"],
      ["POST", "rs485-1/search"],
      ["GET", "rs485-1/samples"],
      ["GET", "rs485-1/settings/nobody"],
    ] as const)
      expect((await call(method, `/jobs/${job}/live/${path}`, method === "POST" ? {} : undefined)).status).toBe(404);
    expect((await call("GET", `/jobs/${job}/live/rs485-1/samples?since=soon`)).status).toBe(400);
    const unarmed = { device: "a", of: "ratio", input: 1, value: 5, armed: "ratio/2" };
    const written = await call<ErrorAnswer>("POST", `/jobs/${job}/live/rs485-1/settings`, unarmed);
    expect(written.body.error.issues[0]?.path).toBe("armed");
  });
});

/** The events of a job's stream, one after the other. */
function eventsOf(job: string) {
  const stop = new AbortController();
  const waiting: { readonly event: string; readonly data: unknown }[] = [];
  const response = fetch(`${app}/api/v1/jobs/${job}/live`, {
    headers: { accept: "text/event-stream" },
    signal: stop.signal,
  });
  const reader = response.then(({ body }) => body!.pipeThrough(new TextDecoderStream()).getReader());
  let held = "";
  const next = async (): Promise<{ readonly event: string; readonly data: unknown }> => {
    for (;;) {
      const ready = waiting.shift();
      if (ready) return ready;
      const { value, done } = await (await reader).read();
      if (done) throw new Error("the stream ended");
      held += value;
      const parts = held.split("\n\n");
      held = parts.pop()!;
      for (const part of parts) {
        const event = /^event: (.*)$/m.exec(part)?.[1];
        const data = /^data: (.*)$/m.exec(part)?.[1];
        if (event && data) waiting.push({ event, data: JSON.parse(data) as unknown });
      }
    }
  };
  return {
    next,
    close: async () => {
      stop.abort();
      await response.catch(() => undefined);
    },
  };
}
