import type { ExportLimitRequest } from "@/core/simulation/exportLimitSchema";
import { Late, microseconds } from "@/core/simulation/feedIn/late";
import { LagShare } from "@/core/simulation/feedIn/lag";
import type { Phase } from "@/core/phase";

type Inverter = ExportLimitRequest["inverters"][number];

/** An inverter in time: hears a command after its dead time, ramps to it, and follows with a first-order lag. */
export class LaggingInverter {
  readonly ratedW: number;
  availableW: number;
  isLost = false;
  outputW = 0;
  /** The phases that it feeds, as indexes. */
  readonly phases: readonly number[];
  private commands: Late<number>;
  private sentW = 0;
  private readonly lag: LagShare;
  private readonly tauUs: number;
  private readonly rampWPerUs: number;
  private readonly minW: number;
  private readonly deadTimeUs: number;
  private readonly lostAfterUs: number;
  private readonly fallbackW: number;
  private targetW = 0;

  constructor(inverter: Inverter, phases: readonly Phase[]) {
    this.ratedW = inverter.ratedW;
    this.availableW = inverter.availableW;
    this.phases = inverter.phases.map((phase) => phases.indexOf(phase));
    this.deadTimeUs = microseconds(inverter.deadTimeMs);
    this.commands = new Late(this.deadTimeUs, 0);
    this.lag = new LagShare(inverter.tauMs);
    this.tauUs = Math.max(0, inverter.tauMs * 1000);
    this.rampWPerUs = inverter.rampWPerS / 1e6;
    this.minW = inverter.minW;
    this.lostAfterUs = inverter.lostMeter ? microseconds(inverter.lostMeter.afterMs) : Infinity;
    this.fallbackW = inverter.lostMeter?.fallbackW ?? 0;
  }

  /** At rest under a command, W. */
  settle(commandW: number): void {
    this.commands = new Late(this.deadTimeUs, commandW);
    this.sentW = commandW;
    this.targetW = Math.min(this.availableW, commandW);
    this.outputW = this.targetW;
  }

  /**
   * From a time on for so long under one command.
   *
   * @param lostUs Since when its meter is silent; undefined while it is heard.
   * @returns What it makes at the end, W.
   */
  step(us: number, lastsUs: number, commandW: number, lostUs: number | undefined, isGridOn: boolean): number {
    const isSilent = lostUs !== undefined && us - lostUs >= this.lostAfterUs;
    const sentW = isSilent ? this.fallbackW : commandW;
    if (sentW !== this.sentW) {
      this.commands.send(us, sentW);
      this.sentW = sentW;
    }
    const heardW = this.commands.at(us);
    const wantedW = Math.min(heardW, this.availableW, this.ratedW);
    const reachableW = wantedW < this.minW ? 0 : wantedW;
    // Sun that is gone cannot be delivered, whatever the ramp says.
    this.targetW = Math.min(this.targetW, this.availableW);
    if (this.isLost || !isGridOn) {
      this.targetW = 0;
      this.outputW = 0;
      return 0;
    }
    const wayW = reachableW - this.targetW;
    const rampUs = Math.min(lastsUs, Math.abs(wayW) / this.rampWPerUs);
    if (rampUs > 0) this.follow(rampUs, Math.sign(wayW) * this.rampWPerUs);
    if (rampUs < lastsUs) {
      this.targetW = reachableW;
      this.follow(lastsUs - rampUs, 0);
    }
    return this.outputW;
  }

  /**
   * A target that goes on by r a microsecond, followed exactly: y(Δ) = T + rΔ − rτ + (y − T + rτ) e^(−Δ/τ).
   */
  private follow(lastsUs: number, rampWPerUs: number): void {
    const behindW = rampWPerUs * this.tauUs;
    const left = 1 - this.lag.of(lastsUs);
    const endW = this.targetW + rampWPerUs * lastsUs;
    this.outputW = endW - behindW + (this.outputW - this.targetW + behindW) * left;
    this.targetW = endW;
  }
}
