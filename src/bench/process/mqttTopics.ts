import net from "node:net";
import { Aedes } from "aedes";
import { listening } from "@/bench/process/loopback";
import type { SimulatedSite } from "@/bench/process/simulatedSite";
import { isMeasured } from "@/core/kits/registersOf";
import type { Register } from "@/core/kits/registerSchema";
import { baseUnit } from "@/core/kits/registerValue";

const EVERY_MS = 1_000;

/** A broker to which the site's gateway sends every measured value once a second. */
export interface MqttTopics {
  readonly port: number;
  readonly topics: readonly string[];
  readonly close: () => Promise<void>;
}

/**
 * The topic of a value: `site/<device>/<quantity>[/<input>]`; its message is `{"value": …, "unit": …}`.
 *
 * @example topicOf("meter", { of: "power", input: 2 }) // "site/meter/power/2"
 */
export function topicOf(device: string, { of, input }: Pick<Register, "of" | "input">): string {
  return `site/${device}/${of}${input === undefined ? "" : `/${input}`}`;
}

export async function mqttTopics(site: SimulatedSite): Promise<MqttTopics> {
  const broker = await Aedes.createBroker();
  const server = net.createServer(broker.handle);
  const port = await listening(server);
  const sent = site.devices.flatMap((device) =>
    device.unit.registers.filter(isMeasured).map((register) => ({ device, register })),
  );
  const publish = () => {
    for (const { device, register } of sent) {
      if (site.isSilent(device)) continue;
      const payload = JSON.stringify({ value: site.value(device, register), unit: baseUnit(register) });
      const topic = topicOf(device.unit.device, register);
      broker.publish({ cmd: "publish", topic, payload, qos: 0, retain: true, dup: false }, () => undefined);
    }
  };
  publish();
  const timer = setInterval(publish, EVERY_MS);
  return {
    port,
    topics: sent.map(({ device, register }) => topicOf(device.unit.device, register)),
    close: async () => {
      clearInterval(timer);
      await new Promise<void>((closed) => broker.close(() => closed()));
      await new Promise((closed) => server.close(closed));
    },
  };
}
