import net from "node:net";
import { listening } from "@/bench/process/loopback";
import type { SimulatedSite } from "@/bench/process/simulatedSite";
import type { ReadableLine } from "@/core/live/readableLines";
import { characterMs, gapMs } from "@/core/links/bus/pollCycle";
import { rtuCheck, rtuFrameAt } from "@/core/links/bus/rtuFrame";
import { seededUniform } from "@/core/random";

const HEADER_BYTES = 6;
const CHECK_BYTES = 2;
const LONGEST_FRAME_BYTES = 256;
/** Of bytes that are no frame, how long more is waited for; a network may cut a frame anywhere. */
const CUT_FRAME_MS = 150;
const OTHER_CLIENT_EVERY_MS = 2_000;

interface Request {
  /** Who asked; undefined for another client on the line itself. */
  readonly socket: net.Socket | undefined;
  readonly frame: Buffer;
}

/**
 * A serial line as a converter gives it on TCP: Modbus RTU frames as they are, one talker at a time, each character at
 * the line's speed. Who answers is the same devices as on Modbus TCP; here only the line's own time and faults are
 * made.
 */
export class RtuLine {
  port = 0;
  private readonly server = net.createServer((socket) => this.accept(socket));
  private readonly sockets = new Set<net.Socket>();
  private readonly waiting: Request[] = [];
  private readonly uniform: () => number;
  private upstream: net.Socket | undefined;
  private isBusy = false;
  private freeAtMs = 0;
  private otherClient: NodeJS.Timeout | undefined;

  constructor(
    private readonly site: SimulatedSite,
    private readonly line: ReadableLine & { readonly serial: NonNullable<ReadableLine["serial"]> },
    private readonly modbusPort: number,
    seed: number,
  ) {
    this.uniform = seededUniform(seed);
  }

  async open(): Promise<void> {
    this.port = await listening(this.server, this.port);
    this.otherClient = setInterval(() => this.askAsAnother(), OTHER_CLIENT_EVERY_MS);
  }

  async close(): Promise<void> {
    clearInterval(this.otherClient);
    this.upstream?.destroy();
    this.upstream = undefined;
    for (const socket of this.sockets) socket.destroy();
    await new Promise((closed) => this.server.close(closed));
  }

  private accept(socket: net.Socket): void {
    let held = Buffer.alloc(0);
    let cut: NodeJS.Timeout | undefined;
    this.sockets.add(socket);
    socket.setNoDelay(true);
    socket.on("error", () => undefined);
    socket.on("close", () => {
      clearTimeout(cut);
      this.sockets.delete(socket);
    });
    const take = (mayWait: boolean) => {
      while (held.length > 0) {
        const frame = rtuFrameAt(held, 0);
        if (frame && (frame.kind === "request" || frame.kind === "request-or-reply")) {
          this.waiting.push({ socket, frame: held.subarray(0, frame.length) });
          held = held.subarray(frame.length);
        } else if (mayWait && held.length < LONGEST_FRAME_BYTES) break;
        else held = held.subarray(1);
      }
      void this.talk();
    };
    socket.on("data", (bytes) => {
      held = Buffer.concat([held, bytes]);
      clearTimeout(cut);
      take(true);
      if (held.length > 0) cut = setTimeout(() => take(false), CUT_FRAME_MS);
    });
  }

  /** One request after the other: whoever asks while another is being answered waits for the line. */
  private async talk(): Promise<void> {
    if (this.isBusy) return;
    this.isBusy = true;
    for (let next = this.waiting.shift(); next; next = this.waiting.shift()) {
      const reply = await this.exchanged(next.frame);
      // What another client on the line says and is told, everybody hears.
      if (!next.socket)
        for (const socket of this.sockets) socket.write(Buffer.concat([next.frame, reply ?? Buffer.alloc(0)]));
      else if (reply && !next.socket.destroyed) next.socket.write(reply);
    }
    this.isBusy = false;
  }

  /** Put a request on the line and give what comes back, when its last character has come. */
  private async exchanged(request: Buffer): Promise<Buffer | undefined> {
    const { serial, link } = this.line;
    const character = characterMs(serial);
    const gap = gapMs(serial);
    const asked = Math.max(performance.now(), this.freeAtMs) + request.length * character;
    const device = this.site.deviceAt(link, request[0]!);
    if (!device || this.site.isSilent(device)) {
      this.freeAtMs = asked + gap;
      await until(this.freeAtMs);
      return undefined;
    }
    const reply = await this.answer(request);
    if (!reply) return undefined;
    const answered = asked + gap + device.unit.turnaroundMs + reply.length * character;
    this.freeAtMs = answered + gap;
    await until(answered);
    return this.disturbed(reply);
  }

  /** The devices' answer to a frame, from the Modbus server of this link; none where the connection to it is cut. */
  private async answer(frame: Buffer): Promise<Buffer | undefined> {
    const socket = this.toDevices();
    const pdu = frame.subarray(0, -CHECK_BYTES);
    const header = Buffer.alloc(HEADER_BYTES);
    header.writeUInt16BE(pdu.length, HEADER_BYTES - 2);
    const reply = new Promise<Buffer | undefined>((resolve) => {
      let held = Buffer.alloc(0);
      const over = (answered: Buffer | undefined) => {
        socket.off("data", take);
        socket.off("close", cut);
        resolve(answered);
      };
      const cut = () => over(undefined);
      const take = (bytes: Buffer) => {
        held = Buffer.concat([held, bytes]);
        if (held.length < HEADER_BYTES || held.length < HEADER_BYTES + held.readUInt16BE(HEADER_BYTES - 2)) return;
        over(held.subarray(HEADER_BYTES));
      };
      socket.on("data", take);
      socket.on("close", cut);
    });
    socket.write(Buffer.concat([header, pdu]));
    const answered = await reply;
    return answered && checked(answered);
  }

  /** The connection to the devices of this link: the one that is open, or a new one. */
  private toDevices(): net.Socket {
    if (this.upstream && !this.upstream.destroyed) return this.upstream;
    const socket = net.connect({ host: "127.0.0.1", port: this.modbusPort });
    // What an error means shows as a close.
    socket.on("error", () => undefined);
    this.upstream = socket;
    return socket;
  }

  /** With a line that reflects, some frames come broken. */
  private disturbed(reply: Buffer): Buffer {
    const errors = this.site.faults.find((fault) => fault.kind === "bit-errors" && fault.link === this.line.link);
    if (errors?.kind !== "bit-errors" || this.uniform() >= errors.share) return reply;
    const broken = Buffer.from(reply);
    const at = Math.floor(this.uniform() * broken.length);
    broken[at] = broken[at]! ^ (1 << Math.floor(this.uniform() * 8));
    return broken;
  }

  /** Another client's question and its answer, which everybody on the line hears. */
  private askAsAnother(): void {
    const isThere = this.site.faults.some((fault) => fault.kind === "second-client" && fault.link === this.line.link);
    const unit = this.line.units[0];
    const register = unit?.registers[0];
    if (!isThere || !unit || !register) return;
    const question = Buffer.from([unit.unit, register.table === "holding" ? 3 : 4, 0, 0, 0, 1]);
    question.writeUInt16BE(register.address, 2);
    this.waiting.push({ socket: undefined, frame: checked(question) });
    void this.talk();
  }
}

/** A frame with its check. */
function checked(bytes: Buffer): Buffer {
  const check = Buffer.alloc(CHECK_BYTES);
  check.writeUInt16LE(rtuCheck(bytes));
  return Buffer.concat([bytes, check]);
}

function until(atMs: number): Promise<void> {
  return new Promise((resolve) => setTimeout(resolve, Math.max(0, atMs - performance.now())));
}
