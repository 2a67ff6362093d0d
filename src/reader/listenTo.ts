import net from "node:net";
import type { Readable } from "node:stream";
import { SerialPort } from "serialport";
import type { LiveWay } from "@/core/live/liveSchema";
import type { Rs485Bus } from "@/core/links/bus/rs485Schema";

const MS_PER_S = 1000;
const MOST_BYTES = 1_000_000;

type ListenWay = Extract<LiveWay, { kind: "serial" | "rtu-over-tcp" }>;

/**
 * Listen to a line for some seconds and send nothing: its bytes as they came, a line for each piece with the seconds
 * since the beginning before it, as the line log reads them. Throws what the connection throws.
 */
export async function listenTo(
  way: ListenWay,
  serial: Pick<Rs485Bus, "baud" | "parity" | "stopBits" | "dataBits"> | undefined,
  seconds: number,
): Promise<string> {
  const { stream, close } = await opened(way, serial);
  const lines: string[] = [];
  const began = performance.now();
  let bytes = 0;
  stream.on("data", (piece: Buffer) => {
    bytes += piece.length;
    if (bytes > MOST_BYTES) return;
    const hex = piece.toString("hex").toUpperCase().match(/../g)!.join(" ");
    lines.push(`${((performance.now() - began) / MS_PER_S).toFixed(3)} ${hex}`);
  });
  await new Promise<void>((over) => {
    const timer = setTimeout(over, seconds * MS_PER_S);
    stream.once("close", () => {
      clearTimeout(timer);
      over();
    });
  });
  close();
  return lines.join("\n");
}

async function opened(
  way: ListenWay,
  serial: Pick<Rs485Bus, "baud" | "parity" | "stopBits" | "dataBits"> | undefined,
): Promise<{ readonly stream: Readable; readonly close: () => void }> {
  if (way.kind === "rtu-over-tcp") {
    const socket = net.connect({ host: way.host, port: way.port });
    await new Promise<void>((connected, failed) => {
      socket.once("connect", connected);
      socket.once("error", failed);
    });
    socket.on("error", () => undefined);
    return { stream: socket, close: () => socket.destroy() };
  }
  const port = new SerialPort({
    path: way.path,
    baudRate: way.baud ?? serial?.baud ?? 9600,
    parity: way.parity ?? serial?.parity ?? "none",
    stopBits: way.stopBits ?? serial?.stopBits ?? 1,
    dataBits: serial?.dataBits ?? 8,
    autoOpen: false,
  });
  await new Promise<void>((open, failed) => port.open((error) => (error ? failed(error) : open())));
  return { stream: port, close: () => port.close() };
}
