import net from "node:net";
import { afterEach, describe, expect, it } from "vitest";
import { listening } from "@/bench/process/loopback";
import { modbusTcp, type ModbusServer } from "@/bench/process/modbusTcp";
import { RtuLine } from "@/bench/process/rtuLine";
import { SimulatedSite } from "@/bench/process/simulatedSite";
import { benchSpec, rtuFrame } from "../../tests/fixtures/benchSpec";
import { jobFromPattern } from "../../tests/fixtures/shipped";

const document = jobFromPattern("three-phase-storage");
const spec = benchSpec(document);
const line = spec.lines.find(({ serial, units }) => serial && units.some(({ meter }) => meter))!;
const meter = line.units.find((unit) => unit.meter)!;
const register = meter.registers.find(({ table }) => table === "input")!;
const question = rtuFrame(Buffer.from([meter.unit, 4, register.address >> 8, register.address & 255, 0, 1]));

const opened: { close(): unknown }[] = [];
afterEach(async () => {
  for (const own of opened.splice(0).toReversed()) await own.close();
});

function kept<T extends { close(): unknown }>(own: T): T {
  opened.push(own);
  return own;
}

/** A line before the devices of a server of Modbus, and somebody on it. */
async function lineTo(server: Pick<ModbusServer, "port">) {
  const site = new SimulatedSite(spec, () => 0);
  const fast = { ...line, serial: { ...line.serial!, baud: 921_600 } };
  const rtu = kept(new RtuLine(site, fast, server.port, 1));
  await rtu.open();
  const socket = net.connect({ host: "127.0.0.1", port: rtu.port });
  kept({ close: () => socket.destroy() });
  return { rtu, ask: () => answerTo(socket) };
}

/** The first bytes that come after the question. */
function answerTo(socket: net.Socket): Promise<Buffer> {
  return new Promise((answered) => {
    socket.once("data", answered);
    socket.write(question);
  });
}

/** What the line holds of the devices: looked at from outside, as nothing else shows that it grows. */
function listeners(rtu: RtuLine): number {
  const { upstream } = rtu as unknown as { readonly upstream: net.Socket }; // private to it
  return upstream.eventNames().reduce((sum, name) => sum + upstream.listenerCount(name), 0);
}

describe("A simulated serial line", () => {
  it("holds no more after a hundred questions than after one", async () => {
    const { rtu, ask } = await lineTo(kept(await modbusTcp(new SimulatedSite(spec, () => 0), line.link)));
    const first = await ask();
    const before = listeners(rtu);
    for (let asked = 0; asked < 100; asked++) expect(await ask()).toEqual(first);
    expect(listeners(rtu)).toBe(before);
  });

  it("says nothing to a question in which the devices are cut off, and answers the next", async () => {
    const devices = kept(await modbusTcp(new SimulatedSite(spec, () => 0), line.link));
    let isCut = true;
    const between = kept(
      net.createServer((socket) => {
        if (isCut) return void socket.once("data", () => socket.destroy());
        const onward = net.connect({ host: "127.0.0.1", port: devices.port });
        socket.pipe(onward).pipe(socket);
      }),
    );
    const { ask } = await lineTo({ port: await listening(between) });
    const silent = ask();
    // The answer that comes is the second question's: to the first one nothing comes.
    await new Promise((closed) => between.once("connection", (socket) => socket.once("close", closed)));
    isCut = false;
    const answer = await ask();
    expect(answer[0]).toBe(meter.unit);
    expect(await silent).toEqual(answer);
  });
});
