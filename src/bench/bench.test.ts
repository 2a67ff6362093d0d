import net from "node:net";
import mqtt from "mqtt";
import ModbusRTU from "modbus-serial";
import { afterEach, describe, expect, it } from "vitest";
import { RunningBench } from "@/bench/process/runningBench";
import type { BenchSpec } from "@/bench/message";
import { benchSite } from "@/core/bench/benchSite";
import { benchChangeSchema, type Bench } from "@/core/bench/benchSchema";
import { candidateFaults } from "@/core/flows/faults";
import { predict } from "@/core/flows/predict";
import type { JobDocument } from "@/core/job/jobDocument";
import { REGISTER_WORDS, type Register } from "@/core/kits/registerSchema";
import { decodeRegister, registerStep } from "@/core/kits/registerValue";
import { characterMs, gapMs } from "@/core/links/bus/pollCycle";
import { seededUniform } from "@/core/random";
import { benchSpec, meterLineOf, rtuFrame } from "../../tests/fixtures/benchSpec";
import { jobFromPattern, shippedPatterns } from "../../tests/fixtures/shipped";

const running: { close(): Promise<void> }[] = [];
afterEach(async () => {
  for (const own of running.splice(0).toReversed()) await own.close();
});

async function started(spec: BenchSpec): Promise<{ readonly own: RunningBench; readonly bench: Bench }> {
  const own = await RunningBench.start(spec);
  running.push(own);
  return { own, bench: own.bench() };
}

/** A client of the library, over Modbus TCP or over RTU frames on TCP. */
async function client(line: Bench["lines"][number], timeoutMs = 2_000): Promise<ModbusRTU> {
  const own = new ModbusRTU();
  await (line.protocol === "modbus-tcp"
    ? own.connectTCP(line.host, { port: line.port })
    : own.connectTelnet(line.host, { port: line.port }));
  own.setTimeout(timeoutMs);
  running.push({ close: () => new Promise((closed) => own.close(() => closed())) });
  return own;
}

async function readOf(from: ModbusRTU, unit: number, register: Register): Promise<number> {
  from.setID(unit);
  const count = REGISTER_WORDS[register.type];
  const { data } = await (register.table === "input"
    ? from.readInputRegisters(register.address, count)
    : from.readHoldingRegisters(register.address, count));
  return decodeRegister(data, register);
}

/** What is on at random, in kW that a house and its roof have. */
function someState({ site }: JobDocument, uniform: () => number) {
  return site.nodes
    .filter(({ kind }) => kind !== "grid" && kind !== "board")
    .map(({ id }) => ({ node: id, powerW: Math.round((uniform() - 0.4) * 6000), reactiveVar: 0 }));
}

describe("what a bench says over Modbus TCP", () => {
  it.each(shippedPatterns().map(({ id }) => id))(
    "of every input of %s is what the fitting makes of the state",
    async (pattern) => {
      const document = jobFromPattern(pattern);
      const { own, bench } = await started(benchSpec(document));
      const uniform = seededUniform(pattern.length);
      const faults = candidateFaults(document.site).map(({ fault }) => fault);
      const seen = new Set<string>();
      for (let round = 0; round < 4; round++) {
        const [drawn] = benchChangeSchema.parse({ faults: [faults[Math.floor(uniform() * faults.length)]] }).faults!;
        const planted = round === 0 ? [] : [drawn!];
        const site = benchSite(document.site, "planned", planted);
        const devices = someState(document, uniform);
        const isPlanted = await own.change({ faults: planted, state: { devices, runs: "held" } });
        expect(isPlanted).toBe(site !== undefined);
        if (!site) continue;
        const { inputs } = predict(site, "fitted", { devices });
        for (const line of bench.lines.filter(({ protocol }) => protocol === "modbus-tcp")) {
          const from = await client(line);
          for (const { unit, meter, registers } of line.units)
            for (const register of registers) {
              if (register.of !== "power" || register.input === undefined) continue;
              const expected = inputs.find((input) => input.meter === meter && input.input === register.input);
              if (!expected) continue;
              seen.add(`${meter} ${register.input}`);
              const value = await readOf(from, unit, register);
              const step = registerStep(register) / 2 + Math.abs(expected.powerW) * 2 ** -23;
              expect(Math.abs(value - expected.powerW), `${meter} input ${register.input}`).toBeLessThanOrEqual(
                step + 1e-9,
              );
            }
        }
      }
      const all = document.site.meters.flatMap((meter) => meter.inputs.map(({ n }) => `${meter.id} ${n}`));
      expect([...seen].toSorted()).toEqual(all.toSorted());
    },
  );

  it("is as uncertain as the test sheet assumes, and no more", async () => {
    const document = jobFromPattern("three-phase-storage");
    const { own, bench } = await started(benchSpec(document, { noise: true }));
    const devices = [
      { node: document.site.nodes.find(({ kind }) => kind === "load")!.id, powerW: 3000, reactiveVar: 0 },
    ];
    const { powerW } = predict(benchSite(document.site, "planned", [])!, "fitted", { devices }).inputs[0]!;
    const line = meterLineOf(bench);
    const unit = line.units.find(({ meter }) => meter)!;
    const from = await client(line);
    const register = unit.registers.find(({ of, input }) => of === "power" && input === 1)!;
    const drawn: number[] = [];
    for (let at = 0; at < 60; at++) {
      await own.change({ state: { devices, runs: "held" } });
      drawn.push((await readOf(from, unit.unit, register)) - powerW);
    }
    const sd = Math.sqrt(drawn.reduce((sum, off) => sum + off ** 2, 0) / drawn.length);
    const assumed = Math.hypot(document.tests.noise.absoluteW, document.tests.noise.relative * powerW);
    expect(sd / assumed).toBeGreaterThan(0.6);
    expect(sd / assumed).toBeLessThan(1.5);
  });

  it("refuses what is not there with its code, and keeps what is written where it may be", async () => {
    const document = jobFromPattern("three-phase-storage");
    const { bench } = await started(benchSpec(document));
    const line = meterLineOf(bench);
    const from = await client(line);
    const unit = line.units.find(({ meter }) => meter)!;
    from.setID(unit.unit);
    await expect(from.readInputRegisters(9_000, 1)).rejects.toMatchObject({ modbusCode: 2 });
    from.setID(99);
    await expect(from.readInputRegisters(7_040, 1)).rejects.toMatchObject({ modbusCode: 11 });
    from.setID(unit.unit);
    const serial = unit.registers.find(({ of }) => of === "serial")!;
    await expect(from.writeRegisters(serial.address, [1, 2])).rejects.toMatchObject({ modbusCode: 2 });
    const ratio = unit.registers.find(({ of, input }) => of === "ratio" && input === 1)!;
    await from.writeRegisters(ratio.address, [50]);
    expect(await readOf(from, unit.unit, ratio)).toBe(50);
  });

  it("is cut where the port is blocked, and is there again at the same port afterwards", async () => {
    const document = jobFromPattern("three-phase-storage");
    const { own, bench } = await started(benchSpec(document));
    const [line] = bench.lines;
    await own.change({ faults: [{ kind: "blocked-port", link: line!.link }] });
    await expect(client(line!)).rejects.toThrow(/ECONNREFUSED/);
    await own.change({ faults: [] });
    const { unit, registers } = line!.units[0]!;
    expect(
      await readOf(
        await client(line!),
        unit,
        registers.find(({ of }) => of === "address")!,
      ),
    ).toBe(unit);
  });
});

describe("a serial line of a bench", () => {
  const lineOf = (bench: Bench) => meterLineOf(bench, "rtu-over-tcp");

  it("says the same as Modbus TCP, and takes no less than the time of its characters", async () => {
    const document = jobFromPattern("three-phase-storage");
    const { bench } = await started(benchSpec(document));
    const line = lineOf(bench);
    const from = await client(line);
    const { unit, registers, turnaroundMs } = line.units.find(({ meter }) => meter)!;
    const register = registers.find(({ of, input }) => of === "power" && input === 1)!;
    const began = performance.now();
    await readOf(from, unit, register);
    const serial = line.serial!;
    const characters = 8 + 5 + 2 * REGISTER_WORDS[register.type];
    expect(performance.now() - began).toBeGreaterThanOrEqual(
      characters * characterMs(serial) + gapMs(serial) + turnaroundMs - 2,
    );
  });

  it.each([
    ["device-dead", (device: string) => ({ kind: "device-dead" as const, device })],
    ["wrong-speed", (device: string) => ({ kind: "wrong-speed" as const, device, baud: 4800 })],
    ["exchanged-pair", (device: string) => ({ kind: "exchanged-pair" as const, device })],
    ["wrong-address", (device: string) => ({ kind: "wrong-address" as const, device, address: 77 })],
  ])("gives no answer from a device with %s, and answers again without it", async (_, fault) => {
    const document = jobFromPattern("three-phase-storage");
    const { own, bench } = await started(benchSpec(document));
    const line = lineOf(bench);
    const from = await client(line, 300);
    const { unit, device, registers } = line.units.find(({ meter }) => meter)!;
    const register = registers.find(({ of }) => of === "address")!;
    await own.change({ faults: [fault(device)] });
    await expect(readOf(from, unit, register)).rejects.toThrow(/[Tt]imed out/);
    await own.change({ faults: [] });
    expect(await readOf(from, unit, register)).toBe(unit);
  });

  it("answers frames that come a byte at a time or behind garbage, one after the other to whoever asks", async () => {
    const document = jobFromPattern("three-phase-storage");
    const { bench } = await started(benchSpec(document));
    const line = lineOf(bench);
    const { unit } = line.units.find(({ meter }) => meter)!;
    const question = requestFrame(unit, 7_045);
    const answers = await Promise.all([
      answerTo(line, [Buffer.from([0xff, 0x00, 0x13]), question], question.length - 1),
      answerTo(
        line,
        [...question].map((byte) => Buffer.from([byte])),
        question.length - 1,
      ),
      answerTo(line, [question.subarray(0, 3), question.subarray(3)], question.length - 1),
    ]);
    for (const answer of answers) expect([...answer.subarray(0, 3)]).toEqual([unit, 3, 2]);
  });

  it("breaks frames where it reflects, and another client's frames are heard by everybody", async () => {
    const document = jobFromPattern("three-phase-storage");
    const { own, bench } = await started(benchSpec(document));
    const line = lineOf(bench);
    const from = await client(line, 300);
    const { unit, registers } = line.units.find(({ meter }) => meter)!;
    const register = registers.find(({ of }) => of === "address")!;
    await own.change({ faults: [{ kind: "bit-errors", link: line.link, share: 1 }] });
    await expect(readOf(from, unit, register)).rejects.toThrow();
    await own.change({ faults: [{ kind: "second-client", link: line.link }] });
    const heard = await answerTo(line, [], 8);
    expect(heard.length).toBeGreaterThanOrEqual(8);
  });
});

describe("the other servers of a bench", () => {
  it("send every measured value to an MQTT client, and give it as a page and as data", async () => {
    const document = jobFromPattern("three-phase-storage");
    const { bench } = await started(benchSpec(document));
    const listener = await mqtt.connectAsync(`mqtt://${bench.mqtt.host}:${bench.mqtt.port}`);
    running.push({ close: () => listener.endAsync() });
    const topic = bench.mqtt.topics.find((own) => own.endsWith("power/1"))!;
    const message = new Promise<string>((heard) => listener.on("message", (_, payload) => heard(payload.toString())));
    await listener.subscribeAsync(topic);
    expect(JSON.parse(await message)).toMatchObject({ unit: "W" });
    const data = (await (await fetch(`${bench.portal.url}/data.json`)).json()) as { devices: { isOnline: boolean }[] };
    expect(data.devices.every(({ isOnline }) => isOnline)).toBe(true);
    expect(await (await fetch(bench.portal.url)).text()).toContain("/devices/");
  });

  it("stream a CAN link as lines of text", async () => {
    const document = jobFromPattern("hybrid-high-voltage");
    const { bench } = await started(benchSpec(document, { fitting: "fitted" }));
    const [can] = bench.can;
    const socket = net.connect(can!.port, can!.host);
    running.push({ close: async () => void socket.destroy() });
    const line = await new Promise<string>((heard) => socket.once("data", (bytes) => heard(bytes.toString())));
    expect(line).toMatch(/^\(\d+\.\d{6}\) can0 [0-9A-F]{3}#/);
  });

  it("let a day go on by itself, faster where that is asked", async () => {
    const document = jobFromPattern("three-phase-storage");
    const { own } = await started(benchSpec(document, { fitting: "fitted" }));
    await own.change({ state: { devices: [], runs: "day", minuteOfDay: 720 }, timeFactor: 600 });
    const { devices, runs } = own.status();
    expect(runs).toBe("day");
    expect(devices.some(({ powerW }) => powerW < 0)).toBe(true);
  });
});

/** A question for one holding register. */
function requestFrame(unit: number, address: number): Buffer {
  return rtuFrame(Buffer.from([unit, 3, address >> 8, address & 0xff, 0, 1]));
}

/** Send some pieces, one packet each, and wait for so many bytes. */
async function answerTo(line: Bench["lines"][number], pieces: readonly Buffer[], bytes: number): Promise<Buffer> {
  const socket = net.connect(line.port, line.host);
  socket.setNoDelay(true);
  running.push({ close: async () => void socket.destroy() });
  await new Promise((connected) => socket.once("connect", connected));
  const answer = new Promise<Buffer>((heard) => {
    let held = Buffer.alloc(0);
    socket.on("data", (own) => {
      held = Buffer.concat([held, own]);
      if (held.length >= bytes) heard(held);
    });
  });
  for (const piece of pieces) await new Promise((sent) => socket.write(piece, sent));
  return answer;
}
