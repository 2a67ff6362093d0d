import net from "node:net";
import { listening } from "@/bench/process/loopback";
import type { BenchSpec } from "@/bench/message";

const CHANNEL = "can0";
const MS_PER_S = 1000;
const SHORT_ID_DIGITS = 3;
const LONG_ID_DIGITS = 8;
const LAST_SHORT_ID = 0x7ff;

/** A CAN link as a stream of text, a frame a line as `candump -L` writes it. */
export interface CanStream {
  readonly link: string;
  readonly port: number;
  readonly close: () => Promise<void>;
}

export async function canStream({ link, frames }: BenchSpec["can"][number]): Promise<CanStream> {
  const sockets = new Set<net.Socket>();
  const server = net.createServer((socket) => {
    sockets.add(socket);
    socket.on("error", () => undefined);
    socket.on("close", () => sockets.delete(socket));
  });
  const port = await listening(server);
  let count = 0;
  const timers = frames.map((frame) =>
    setInterval(() => {
      count++;
      const line = `${candumpLine(frame, count, Date.now() / MS_PER_S)}\n`;
      for (const socket of sockets) socket.write(line);
    }, MS_PER_S / frame.perSecond),
  );
  return {
    link,
    port,
    close: async () => {
      timers.forEach(clearInterval);
      for (const socket of sockets) socket.destroy();
      await new Promise((closed) => server.close(closed));
    },
  };
}

/** Its data is the count of frames, so that a gap shows. */
function candumpLine({ id, bytes }: { id: number; bytes: number }, count: number, atS: number): string {
  const digits = id > LAST_SHORT_ID ? LONG_ID_DIGITS : SHORT_ID_DIGITS;
  const data = Array.from({ length: bytes }, (_, at) =>
    ((count >> (8 * (at % 4))) & 0xff).toString(16).padStart(2, "0"),
  );
  const name = id.toString(16).toUpperCase().padStart(digits, "0");
  return `(${atS.toFixed(6)}) ${CHANNEL} ${name}#${data.join("").toUpperCase()}`;
}
