import mqtt, { type MqttClient } from "mqtt";
import { REGISTER_UNITS } from "@/core/kits/registerSchema";
import { isMeasured } from "@/core/kits/registersOf";
import { registerWords } from "@/core/kits/registerWords";
import { mqttValue, topicFor } from "@/core/live/mqttValue";
import type { LiveDevice, LiveLink, LiveSample, LiveValue, LiveWay } from "@/core/live/liveSchema";
import type { ReadableLine } from "@/core/live/readableLines";

const AGAIN_AFTER_MS = 2_000;
const SILENT_AFTER_MS = 10_000;
const LOOK_EVERY_MS = 2_000;
const MOST_SAMPLES = 20_000;

/** Hears one link of a job from an MQTT broker; it never publishes. */
export class MqttReader {
  state: LiveLink;
  /** Every power as it was heard, oldest first. */
  readonly samples: LiveSample[] = [];
  private readonly client: MqttClient;
  private readonly look: NodeJS.Timeout;

  constructor(
    private readonly planned: ReadableLine,
    way: Extract<LiveWay, { kind: "mqtt" }>,
    private readonly changed: (state: LiveLink) => void,
  ) {
    this.state = {
      link: planned.link,
      way,
      state: "connecting",
      devices: planned.units.map(({ device, name, unit, meter }): LiveDevice => ({
        device,
        name,
        unit,
        ...(meter ? { meter } : {}),
        state: "waiting",
        asked: 0,
        missed: 0,
        values: [],
      })),
    };
    this.client = mqtt.connect({ protocol: "mqtt", host: way.host, port: way.port, reconnectPeriod: AGAIN_AFTER_MS });
    const heard = new Map<string, (payload: string) => void>();
    for (const unit of planned.units)
      for (const register of unit.registers.filter(isMeasured))
        heard.set(topicFor(way.topic, unit.device, register), (payload) => {
          const read = mqttValue(payload, REGISTER_UNITS[register.unit].base);
          if (read === undefined) return;
          this.take(unit.device, {
            of: register.of,
            ...(register.input === undefined ? {} : { input: register.input }),
            what: registerWords(register),
            value: read,
            unit: REGISTER_UNITS[register.unit].base,
            atMs: Date.now(),
          });
        });
    this.client.on("connect", () => {
      this.tell({ state: "connected" });
      if (heard.size > 0) this.client.subscribe([...heard.keys()], () => undefined);
    });
    this.client.on("error", (error) => this.tell({ state: "lost", problem: `Not connected: ${error.message}.` }));
    this.client.on("close", () =>
      this.tell({ state: "lost", problem: "The broker is not reached; it is tried again." }),
    );
    this.client.on("message", (topic, payload) => heard.get(topic)?.(payload.toString("utf8")));
    this.look = setInterval(() => this.markSilent(), LOOK_EVERY_MS);
  }

  async stop(): Promise<void> {
    clearInterval(this.look);
    await this.client.endAsync(true);
  }

  private take(device: string, value: LiveValue): void {
    const { of, input, atMs } = value;
    if (of === "power")
      this.samples.push({ device, ...(input === undefined ? {} : { input }), powerW: value.value, atMs });
    if (this.samples.length > MOST_SAMPLES) this.samples.splice(0, this.samples.length - MOST_SAMPLES);
    this.state = {
      ...this.state,
      devices: this.state.devices.map((own) =>
        own.device === device
          ? {
              ...own,
              state: "answers",
              asked: own.asked + 1,
              values: [...own.values.filter(({ of, input }) => of !== value.of || input !== value.input), value],
            }
          : own,
      ),
    };
    this.changed(this.state);
  }

  private markSilent(): void {
    const oldest = Date.now() - SILENT_AFTER_MS;
    const isOld = ({ values }: LiveDevice) => values.every(({ atMs }) => atMs < oldest);
    if (!this.state.devices.some((own) => own.state === "answers" && isOld(own))) return;
    this.tell({
      devices: this.state.devices.map((own) =>
        isOld(own) ? { ...own, state: "silent", problem: "Nothing was heard of it for 10 s." } : own,
      ),
    });
  }

  private tell(change: Partial<LiveLink>): void {
    const { problem: _, ...before } = this.state;
    this.state = { ...before, ...change };
    this.changed(this.state);
  }
}
