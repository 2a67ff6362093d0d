import { ServerTCP } from "modbus-serial";
import type { SimulatedSite } from "@/bench/process/simulatedSite";
import { freeServer } from "@/bench/process/loopback";
import type { Register } from "@/core/kits/registerSchema";

/** Modbus Application Protocol 1.1b3, section 7. */
const ILLEGAL_ADDRESS = 2;
const TARGET_SILENT = 11;

/** A running server of one link. */
export interface ModbusServer {
  readonly port: number;
  readonly close: () => Promise<void>;
}

class Refused extends Error {
  constructor(readonly modbusErrorCode: number) {
    super(`refused with ${modbusErrorCode}`);
  }
}

/**
 * Serve the devices of a link as a Modbus TCP gateway does: its own port, each device under its address. A device that
 * is dead, or set to another speed or wired the wrong way round, is one that the gateway does not reach.
 *
 * @param onPort The port that it had before; a free one where it is left out.
 */
export async function modbusTcp(site: SimulatedSite, link: string, onPort?: number): Promise<ModbusServer> {
  const deviceAt = (unit: number) => {
    const device = site.deviceAt(link, unit);
    if (!device || site.isSilent(device)) throw new Refused(TARGET_SILENT);
    return device;
  };
  const read = (table: Register["table"]) => (address: number, count: number, unit: number) => {
    const words = site.words(deviceAt(unit), table, address, count);
    if (!words) throw new Refused(ILLEGAL_ADDRESS);
    return words;
  };
  const write = (address: number, words: readonly number[], unit: number) => {
    if (!site.write(deviceAt(unit), address, words)) throw new Refused(ILLEGAL_ADDRESS);
  };
  const one = (table: Register["table"]) => (address: number, unit: number) => read(table)(address, 1, unit)[0]!;
  const vector = {
    getInputRegister: one("input"),
    getHoldingRegister: one("holding"),
    getMultipleInputRegisters: read("input"),
    getMultipleHoldingRegisters: read("holding"),
    setRegister: (address: number, value: number, unit: number) => write(address, [value], unit),
    setRegisterArray: (address: number, values: number[], unit: number) => write(address, values, unit),
  };
  const serve = (port: number) =>
    new Promise<ModbusServer>((resolve, reject) => {
      const server = new ServerTCP(vector, { host: "127.0.0.1", port, debug: false });
      server.on("initialized", () =>
        resolve({
          port,
          close: () =>
            new Promise((closed) => {
              server.close(() => closed());
              for (const socket of server.socks.keys()) socket.destroy();
            }),
        }),
      );
      server.on("serverError", reject);
      // A client that goes in the middle of a request is a client's affair.
      server.on("socketError", () => undefined);
    });
  return onPort === undefined ? freeServer(serve) : serve(onPort);
}
