import net from "node:net";
import { afterEach, describe, expect, it } from "vitest";
import { RunningBench } from "@/bench/process/runningBench";
import { LinkReader } from "@/reader/linkReader";
import { MqttReader } from "@/reader/mqttReader";
import { benchOfJob } from "@/core/bench/benchOfJob";
import { benchSite } from "@/core/bench/benchSite";
import type { Bench } from "@/core/bench/benchSchema";
import { predict } from "@/core/flows/predict";
import type { LiveLink } from "@/core/live/liveSchema";
import { benchSpec, rtuFrame } from "../../tests/fixtures/benchSpec";
import { jobFromPattern } from "../../tests/fixtures/shipped";

const document = jobFromPattern("three-phase-storage");
const lines = benchOfJob(document).lines;
const meterLine = lines.find(({ units }) => units.some(({ meter }) => meter))!;
const meterUnit = meterLine.units.find(({ meter }) => meter)!;
const devices = [{ node: document.site.nodes.find(({ kind }) => kind === "load")!.id, powerW: 2400, reactiveVar: 0 }];

const open: { close(): Promise<void> }[] = [];
afterEach(async () => {
  for (const own of open.splice(0).toReversed()) await own.close();
});

async function bench(): Promise<RunningBench> {
  const own = await RunningBench.start(benchSpec(document));
  open.push(own);
  await own.change({ state: { devices, runs: "held" } });
  return own;
}

/** A reader, and a way to wait until its link is as wanted. */
function reading(
  protocol: Bench["lines"][number]["protocol"],
  at: { readonly host: string; readonly port: number },
  line = meterLine,
) {
  let look: () => void = () => undefined;
  const speeds = document.kits.flatMap(({ serial }) => (serial ? [serial] : []));
  const way = { kind: protocol, host: at.host, port: at.port };
  const reader = new LinkReader(line, way, speeds, () => look());
  open.push({ close: () => reader.stop() });
  const until = (isGood: (link: LiveLink) => boolean) =>
    new Promise<LiveLink>((good) => {
      look = () => isGood(reader.state) && good(reader.state);
      look();
    });
  const meter = (link: LiveLink) => link.devices.find(({ device }) => device === meterUnit.device)!;
  return { reader, until, meter };
}

function addressOf(own: RunningBench, protocol: Bench["lines"][number]["protocol"]) {
  return own.bench().lines.find((line) => line.protocol === protocol && line.link === meterLine.link)!;
}

describe("a link that is read", () => {
  it.each(["modbus-tcp", "rtu-over-tcp"] as const)(
    "over %s says what the fitting makes of the site",
    async (protocol) => {
      const own = await bench();
      const { until, meter } = reading(protocol, addressOf(own, protocol));
      const link = await until((state) => meter(state).state === "answers");
      const expected = predict(benchSite(document.site, "planned", [])!, "fitted", { devices }).inputs;
      for (const { meter: id, input, powerW } of expected.filter((one) => one.meter === meterUnit.meter))
        expect(
          meter(link).values.find((value) => value.of === "power" && value.input === input)?.value,
          `${id} input ${input}`,
        ).toBeCloseTo(powerW, 1);
    },
  );

  it("says of a dead device that it is silent, of the others what they say, and takes it up again", async () => {
    const own = await bench();
    const { until, meter } = reading("rtu-over-tcp", addressOf(own, "rtu-over-tcp"));
    await until((state) => meter(state).state === "answers");
    await own.change({ faults: [{ kind: "device-dead", device: meterUnit.device }] });
    const silent = await until((state) => meter(state).state === "silent");
    expect(meter(silent).problem).toContain(`No answer from address ${meterUnit.unit}`);
    await own.change({ faults: [] });
    await until((state) => meter(state).state === "answers");
  });

  it("says that another kit stands there when its registers are refused", async () => {
    const own = await bench();
    const other = {
      ...meterLine,
      units: [{ ...meterUnit, registers: meterUnit.registers.map((one) => ({ ...one, address: one.address + 900 })) }],
    };
    const { until, meter } = reading("modbus-tcp", addressOf(own, "modbus-tcp"), other);
    const link = await until((state) => meter(state).state === "refuses");
    expect(meter(link).problem).toContain("has no register");
  });

  it("is lost when the port is blocked, says why, and comes back by itself", async () => {
    const own = await bench();
    const { until, meter } = reading("modbus-tcp", addressOf(own, "modbus-tcp"));
    await until((state) => meter(state).state === "answers");
    await own.change({ faults: [{ kind: "blocked-port", link: meterLine.link }] });
    const lost = await until(({ state }) => state === "lost");
    expect(lost.problem).toContain("Tried again in 2 s");
    await own.change({ faults: [] });
    await until(({ state }) => state === "connected");
  });

  it("reads how a device is set between its rounds, and keeps every power that it read", async () => {
    const own = await bench();
    const { reader, until, meter } = reading("modbus-tcp", addressOf(own, "modbus-tcp"));
    await until((state) => meter(state).asked > 2);
    const answer = await reader.settings(meterUnit.device);
    expect(answer.kind === "values" && answer.values.find(({ of }) => of === "address")?.value).toBe(meterUnit.unit);
    expect(reader.samples.filter(({ input }) => input === 1).length).toBeGreaterThan(2);
  });

  it("writes a setting that was asked for, reads it back, and refuses what cannot be written", async () => {
    const own = await bench();
    const { reader, until, meter } = reading("rtu-over-tcp", addressOf(own, "rtu-over-tcp"));
    await until((state) => meter(state).state === "answers");
    const was = await reader.settings(meterUnit.device);
    const ratio = was.kind === "values" && was.values.find(({ of, input }) => of === "ratio" && input === 1);
    const other = ratio && ratio.value === 200 ? 100 : 200;
    const written = await reader.write(meterUnit.device, { of: "ratio", input: 1 }, other);
    expect(written).toMatchObject({ kind: "written", value: { of: "ratio", input: 1, value: other } });
    // The meter now takes the CT for another: its reading is as many times too large.
    const [expected] = predict(benchSite(document.site, "planned", [])!, "fitted", { devices }).inputs;
    const factor = other / document.site.meters.find(({ id }) => id === meterUnit.meter)!.inputs[0]!.primaryA;
    await until((state) => {
      const shown = meter(state).values.find(({ of, input }) => of === "power" && input === 1)?.value;
      return shown !== undefined && Math.abs(shown - expected!.powerW * factor) < 1;
    });
    expect(await reader.write(meterUnit.device, { of: "serial", input: undefined }, 5)).toMatchObject({
      kind: "refused",
    });
    await own.change({ faults: [{ kind: "device-dead", device: meterUnit.device }] });
    expect(await reader.write(meterUnit.device, { of: "ratio", input: 1 }, 50)).toMatchObject({ kind: "refused" });
  });

  it("finds the address that a device is really set to", async () => {
    const own = await bench();
    await own.change({ faults: [{ kind: "wrong-address", device: meterUnit.device, address: 77 }] });
    const { reader, until } = reading("modbus-tcp", addressOf(own, "modbus-tcp"));
    reader.find();
    const { search } = await until((state) => state.search?.isOver === true);
    expect(search!.found.map(({ unit }) => unit)).toContain(77);
    expect(search!.found.map(({ unit }) => unit)).not.toContain(meterUnit.unit);
    expect(search!.tried).toBe(247);
  });

  it.each([
    ["garbage before a frame", (reply: Buffer) => [Buffer.concat([Buffer.from([0xff, 0x00]), reply])], "answers"],
    ["one byte at a time", (reply: Buffer) => [...reply].map((byte) => Buffer.from([byte])), "answers"],
    ["a frame that is cut in the middle", (reply: Buffer) => [reply.subarray(0, 4)], "silent"],
    ["a wrong check", (reply: Buffer) => [Buffer.concat([reply.subarray(0, -1), Buffer.from([0])])], "broken"],
    [
      "another address",
      (reply: Buffer) => [rtuFrame(Buffer.concat([Buffer.from([200]), reply.subarray(1, -2)]))],
      "silent",
    ],
    ["a refusal", (reply: Buffer) => [rtuFrame(Buffer.from([reply[0]!, reply[1]! | 0x80, 2]))], "refuses"],
  ] as const)("says of %s what it is, and recovers", async (_, spoilt, wanted) => {
    const line = await spoiledLine(spoilt);
    const { until, meter } = reading("rtu-over-tcp", line);
    await until((state) => meter(state).state === wanted);
    line.isSpoilt = false;
    await until((state) => meter(state).state === "answers");
  });
});

describe("a link that is heard over MQTT", () => {
  it("has the same values, and says when nothing comes any more", async () => {
    const own = await bench();
    const { mqtt } = own.bench();
    let look: () => void = () => undefined;
    const reader = new MqttReader(
      meterLine,
      { kind: "mqtt", host: mqtt.host, port: mqtt.port, topic: "site/{device}/{of}/{input}" },
      () => look(),
    );
    open.push({ close: () => reader.stop() });
    const [expected] = predict(benchSite(document.site, "planned", [])!, "fitted", { devices }).inputs;
    const powerOf = () =>
      reader.state.devices
        .find(({ device }) => device === meterUnit.device)
        ?.values.find(({ of, input }) => of === "power" && input === expected!.input)?.value;
    await new Promise<void>((good) => {
      look = () => powerOf() !== undefined && Math.abs(powerOf()! - expected!.powerW) < 1 && good();
      look();
    });
    await reader.stop();
    expect(reader.samples.length).toBeGreaterThan(0);
  });
});

/** A line whose one device answers every question rightly, or spoilt while that is wanted. */
async function spoiledLine(spoilt: (reply: Buffer) => readonly Buffer[]) {
  const sockets = new Set<net.Socket>();
  const line = { host: "127.0.0.1", port: 0, isSpoilt: true };
  const server = net.createServer((socket) => {
    sockets.add(socket);
    socket.on("error", () => undefined);
    let held = Buffer.alloc(0);
    socket.on("data", (bytes) => {
      held = Buffer.concat([held, bytes]);
      while (held.length >= 8) {
        const question = held.subarray(0, 8);
        held = held.subarray(8);
        const count = question.readUInt16BE(4);
        const reply = rtuFrame(
          Buffer.concat([Buffer.from([question[0]!, question[1]!, 2 * count]), Buffer.alloc(2 * count)]),
        );
        for (const piece of line.isSpoilt ? spoilt(reply) : [reply]) socket.write(piece);
      }
    });
  });
  await new Promise<void>((listening) => server.listen({ host: line.host, port: 0 }, listening));
  line.port = (server.address() as net.AddressInfo).port;
  open.push({
    close: () =>
      new Promise((closed) => {
        sockets.forEach((socket) => socket.destroy());
        server.close(() => closed());
      }),
  });
  return line;
}
