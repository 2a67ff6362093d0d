import ModbusRTU from "modbus-serial";
import type { OpenLine, ReadOutcome } from "@/reader/readLine";
import type { ReadTrouble } from "@/core/live/readTrouble";
import type { LiveWay } from "@/core/live/liveSchema";
import type { Rs485Bus } from "@/core/links/bus/rs485Schema";

const CONNECT_WITHIN_MS = 5_000;

/** What the library's errors carry. */
interface LibraryError {
  readonly name?: string;
  readonly message?: string;
  readonly errno?: string;
  readonly modbusCode?: number;
}

/** Open a line of Modbus. Throws what the connection throws. */
export async function modbusLine(
  way: Exclude<LiveWay, { kind: "mqtt" }>,
  serial: Pick<Rs485Bus, "baud" | "parity" | "stopBits" | "dataBits"> | undefined,
): Promise<OpenLine> {
  const client = new ModbusRTU();
  // Without a listener an error of the socket would end the process; what it means shows at the next question.
  client.on("error", () => undefined);
  await within(connected(client, way, serial), CONNECT_WITHIN_MS);
  return {
    read: async (unit, { table, address, count }, timeoutMs) => {
      const began = performance.now();
      client.setID(unit);
      client.setTimeout(timeoutMs);
      try {
        const { data } = await (table === "input"
          ? client.readInputRegisters(address, count)
          : client.readHoldingRegisters(address, count));
        return { kind: "words", words: data, tookMs: performance.now() - began };
      } catch (error) {
        return { kind: "trouble", trouble: troubleOf(error as LibraryError, address) } satisfies ReadOutcome;
      }
    },
    write: async (unit, { address, words }, timeoutMs) => {
      client.setID(unit);
      client.setTimeout(timeoutMs);
      try {
        await client.writeRegisters(address, [...words]);
        return undefined;
      } catch (error) {
        return troubleOf(error as LibraryError, address);
      }
    },
    isOpen: () => client.isOpen,
    close: () =>
      new Promise((closed) => {
        if (client.isOpen) client.close(() => closed());
        else closed();
      }),
  };
}

function connected(
  client: ModbusRTU,
  way: Exclude<LiveWay, { kind: "mqtt" }>,
  serial: Pick<Rs485Bus, "baud" | "parity" | "stopBits" | "dataBits"> | undefined,
): Promise<void> {
  switch (way.kind) {
    case "modbus-tcp":
      return client.connectTCP(way.host, { port: way.port });
    case "rtu-over-tcp":
      return client.connectTelnet(way.host, { port: way.port });
    case "serial":
      return client.connectRTUBuffered(way.path, {
        baudRate: way.baud ?? serial?.baud ?? 9600,
        parity: way.parity ?? serial?.parity ?? "none",
        stopBits: way.stopBits ?? serial?.stopBits ?? 1,
        dataBits: serial?.dataBits ?? 8,
      });
  }
}

function troubleOf({ name, message = "", errno, modbusCode }: LibraryError, register: number): ReadTrouble {
  if (modbusCode !== undefined) return { kind: "refused", code: modbusCode, register };
  if (name === "TransactionTimedOutError" || errno === "ETIMEDOUT") return { kind: "no-answer", tries: 1 };
  if (/unexpected data error, expected address/i.test(message)) return { kind: "other-answered" };
  if (/crc|unexpected data/i.test(message)) return { kind: "broken-answer" };
  return { kind: "cut" };
}

async function within<T>(work: Promise<T>, timeMs: number): Promise<T> {
  let timer: NodeJS.Timeout | undefined;
  const late = new Promise<never>((_, reject) => {
    timer = setTimeout(() => reject(new Error(`nobody answered within ${timeMs / 1000} s`)), timeMs);
  });
  try {
    return await Promise.race([work, late]);
  } finally {
    clearTimeout(timer);
  }
}
