import { readdir } from "node:fs/promises";
import { SerialPort } from "serialport";

const DEVICES = "/dev";
const ADAPTER = /^tty(USB|ACM)\d+$/;

/** A serial adapter that the system names. */
export interface Adapter {
  readonly path: string;
  readonly name: string;
}

/** The serial adapters of this machine; where the system has no list of them, those that stand among its devices. */
export async function adapters(): Promise<readonly Adapter[]> {
  try {
    const ports = await SerialPort.list();
    return ports.map(({ path, manufacturer }) => ({ path, name: manufacturer ? `${path} (${manufacturer})` : path }));
  } catch {
    const names = await readdir(DEVICES).catch(() => []);
    return names.filter((name) => ADAPTER.test(name)).map((name) => ({ path: `${DEVICES}/${name}`, name }));
  }
}
