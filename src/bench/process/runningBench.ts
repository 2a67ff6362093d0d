import { modbusTcp, type ModbusServer } from "@/bench/process/modbusTcp";
import { canStream, type CanStream } from "@/bench/process/canStream";
import { mqttTopics, type MqttTopics } from "@/bench/process/mqttTopics";
import { siteNetwork, type SiteNetwork } from "@/bench/process/siteNetwork";
import { portal, type Portal } from "@/bench/process/portal";
import { RtuLine } from "@/bench/process/rtuLine";
import { SimulatedSite } from "@/bench/process/simulatedSite";
import type { BenchSpec } from "@/bench/message";
import type { ReadableLine } from "@/core/live/readableLines";
import type { Bench, BenchAddress, BenchChange, BenchStatus } from "@/core/bench/benchSchema";

const HOST = "127.0.0.1";
const STEP_MS = 250;

interface RunningLine {
  readonly line: ReadableLine;
  modbus: ModbusServer;
  readonly rtu: RtuLine | undefined;
  isBlocked: boolean;
}

/** All servers of one bench, on loopback alone. */
export class RunningBench {
  private readonly steps: NodeJS.Timeout;

  private constructor(
    private readonly spec: BenchSpec,
    private readonly site: SimulatedSite,
    private readonly lines: readonly RunningLine[],
    private readonly mqtt: MqttTopics,
    private readonly web: Portal,
    private readonly can: readonly CanStream[],
    private readonly network: SiteNetwork,
  ) {
    this.steps = setInterval(() => site.step(), STEP_MS);
  }

  /** Stop every server of it. */
  async close(): Promise<void> {
    clearInterval(this.steps);
    for (const running of this.lines) if (!running.isBlocked) await block(running);
    await Promise.all([
      this.mqtt.close(),
      this.web.close(),
      this.network.close(),
      ...this.can.map((stream) => stream.close()),
    ]);
  }

  static async start(spec: BenchSpec): Promise<RunningBench> {
    const site = new SimulatedSite(spec, () => performance.now());
    const lines = await Promise.all(spec.lines.map((line) => opened(site, line, spec.request.seed)));
    return new RunningBench(
      spec,
      site,
      lines,
      await mqttTopics(site),
      await portal(site),
      await Promise.all(spec.can.map(canStream)),
      await siteNetwork(site.network, (kind, device) => site.cure(kind, device)),
    );
  }

  /** @returns Whether the faults can be fitted. */
  async change(change: BenchChange): Promise<boolean> {
    if (!this.site.change(change)) return false;
    await this.network.follow();
    for (const running of this.lines) {
      const isBlocked = this.site.faults.some(
        (fault) => fault.kind === "blocked-port" && fault.link === running.line.link,
      );
      if (isBlocked !== running.isBlocked) await (isBlocked ? block(running) : this.unblock(running));
      running.isBlocked = isBlocked;
    }
    return true;
  }

  private async unblock(running: RunningLine): Promise<void> {
    running.modbus = await modbusTcp(this.site, running.line.link, running.modbus.port);
    await running.rtu?.open();
  }

  bench(): Bench {
    return {
      id: this.spec.id,
      jobRevision: this.spec.jobRevision,
      lines: this.lines.flatMap(({ line, modbus, rtu }): BenchAddress[] => {
        const { serial, ...named } = { ...line, units: [...line.units], host: HOST };
        return [
          { ...named, protocol: "modbus-tcp" as const, port: modbus.port },
          ...(rtu && serial ? [{ ...named, protocol: "rtu-over-tcp" as const, port: rtu.port, serial }] : []),
        ];
      }),
      mqtt: { host: HOST, port: this.mqtt.port, topics: [...this.mqtt.topics] },
      portal: { url: this.web.url },
      network: this.network.places,
      can: this.can.map(({ link, port }) => ({ link, host: HOST, port })),
    };
  }

  status(): BenchStatus {
    const { minuteOfDay, devices } = this.site.state();
    return {
      bench: this.bench(),
      minuteOfDay,
      timeFactor: this.site.timeFactor,
      runs: this.site.runs,
      devices: devices.map(({ node, powerW }) => ({ node, powerW })),
      faults: [...this.site.faults],
      online: this.site.network.devices.map(({ device }) => {
        const { name, rung, lamps, address = null } = this.site.network.look(device);
        return { device, name, rung, lamps: [...lamps], address };
      }),
      acts: this.site.standingActs().map(({ device, name, kind, lastsS, state, leftS, says }) => ({
        device,
        name,
        kind,
        lastsS,
        state,
        leftS,
        says: [...says],
      })),
      cards: this.site.devices.map((device) => {
        const faults = this.site.faultsOf(device).map(({ kind }) => kind);
        const lamp = this.site.isSilent(device)
          ? "silent"
          : faults.includes("wrong-address")
            ? "at another address"
            : faults.some((kind) => kind === "bit-errors" || kind === "second-client" || kind === "blocked-port")
              ? "disturbed"
              : "answers";
        const { unit, line, asked } = device;
        return {
          device: unit.device,
          name: unit.name,
          link: line.link,
          unit: unit.unit,
          ...(unit.meter ? { meter: unit.meter } : {}),
          lamp,
          shows: [...this.site.shows(device)],
          asked,
        };
      }),
    };
  }
}

async function opened(site: SimulatedSite, line: ReadableLine, seed: number): Promise<RunningLine> {
  const modbus = await modbusTcp(site, line.link);
  const { serial } = line;
  const rtu = serial && new RtuLine(site, { ...line, serial }, modbus.port, seed);
  await rtu?.open();
  return { line, modbus, rtu, isBlocked: false };
}

/** Nobody gets through to the port any more; whoever was connected is cut. */
async function block({ modbus, rtu }: RunningLine): Promise<void> {
  await rtu?.close();
  await modbus.close();
}
