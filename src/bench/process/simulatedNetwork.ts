import type { BenchSpec } from "@/bench/message";
import { lampsOnBench, rungOnBench, type OnlineOnBench } from "@/core/bench/onlineOnBench";
import type { NetworkFault } from "@/core/bench/networkFault";
import { ipv4Text, parsedSubnet } from "@/core/ipv4";
import { rungHeight, type Rung } from "@/core/online/rungs";

const MS_PER_MIN = 60_000;
const USUAL_SUBNET = "192.168.7.0/24";
/** Where the bench's router begins to give addresses, in its network. */
const FIRST_GIVEN = 100;

/** Where one device stands, as its owner and its own page have it. */
export interface OnlineLook {
  readonly name: string;
  readonly rung: Rung | null;
  readonly lamps: readonly string[];
  readonly address: string | undefined;
  readonly clockMs: number;
}

/** The way online of a bench's devices as time goes on. It knows no protocol. */
export class SimulatedNetwork {
  readonly devices: readonly OnlineOnBench[];
  /** How long each has power, in the bench's time, min. */
  private readonly sinceMin = new Map<string, number>();

  constructor(
    private readonly spec: Pick<BenchSpec, "online" | "subnet">,
    private readonly faultsNow: () => readonly NetworkFault[],
    private readonly nowMs: () => number,
  ) {
    this.devices = spec.online;
  }

  /** Let time go on, the bench's. What has no power begins anew when it has it again. */
  step(benchMs: number): void {
    for (const { device } of this.devices) {
      const before = this.sinceMin.get(device) ?? 0;
      this.sinceMin.set(device, this.isOff(device) ? 0 : before + benchMs / MS_PER_MIN);
    }
  }

  has(kind: NetworkFault["kind"]): boolean {
    return this.faultsNow().some((fault) => fault.kind === kind);
  }

  /** Whether its own page answers in the site's network. */
  isReached(device: string): boolean {
    return !this.faultsNow().some(
      (fault) =>
        "device" in fault &&
        fault.device === device &&
        (fault.kind === "no-power" || fault.kind === "passphrase-wrong" || fault.kind === "no-address"),
    );
  }

  /** What the service says of a device. */
  flagOf(device: string): "online" | "offline" | "unknown-device" | "other-account" {
    const has = (kind: NetworkFault["kind"]) =>
      this.faultsNow().some((fault) => fault.kind === kind && "device" in fault && fault.device === device);
    if (has("not-registered")) return "unknown-device";
    if (has("other-account")) return "other-account";
    return rungHeight(this.look(device).rung) >= rungHeight("data-arrives") ? "online" : "offline";
  }

  look(device: string): OnlineLook {
    const at = this.devices.findIndex((own) => own.device === device);
    const own = this.devices[at]!;
    const rung = rungOnBench(own, this.faultsNow(), this.sinceMin.get(device) ?? 0);
    const off = this.faultsNow().find((fault) => fault.kind === "clock-off" && fault.device === device);
    return {
      name: own.name,
      rung,
      lamps: lampsOnBench(own, rung),
      address: this.addressOf(own, at, rung),
      clockMs: this.nowMs() + (off?.kind === "clock-off" ? off.seconds * 1000 : 0),
    };
  }

  private addressOf(own: OnlineOnBench, at: number, rung: Rung | null): string | undefined {
    if (rungHeight(rung) < rungHeight("joined")) return undefined;
    if (this.faultsNow().some((fault) => fault.kind === "no-address" && fault.device === own.device))
      return `169.254.7.${at + 1}`;
    const subnet = parsedSubnet(this.spec.subnet ?? USUAL_SUBNET)!;
    return own.address ?? ipv4Text(subnet.first + FIRST_GIVEN + at);
  }

  private isOff(device: string): boolean {
    return this.faultsNow().some((fault) => fault.kind === "no-power" && fault.device === device);
  }
}
