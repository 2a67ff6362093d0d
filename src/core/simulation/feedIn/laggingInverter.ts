import type { ExportLimitRequest } from "@/core/simulation/exportLimitSchema";
import { lagShare } from "@/core/simulation/feedIn/lag";
import type { Phase } from "@/core/phase";

type Inverter = ExportLimitRequest["inverters"][number];

/** An inverter in steps: hears a command after its dead time, ramps to it, and follows with a first-order lag. */
export class LaggingInverter {
  readonly ratedW: number;
  availableW: number;
  isLost = false;
  outputW = 0;
  /** The phases that it feeds, as indexes. */
  readonly phases: readonly number[];
  /** Commands on their way, a ring as long as the dead time. */
  private readonly commandsW: Float64Array;
  private readonly share: number;
  private readonly rampW: number;
  private readonly minW: number;
  private readonly lostAfterSteps: number;
  private readonly fallbackW: number;
  private targetW = 0;

  constructor(inverter: Inverter, stepMs: number, phases: readonly Phase[]) {
    this.ratedW = inverter.ratedW;
    this.availableW = inverter.availableW;
    this.phases = inverter.phases.map((phase) => phases.indexOf(phase));
    this.commandsW = new Float64Array(Math.max(1, Math.round(inverter.deadTimeMs / stepMs) + 1));
    this.share = lagShare(inverter.tauMs, stepMs);
    this.rampW = (inverter.rampWPerS * stepMs) / 1000;
    this.minW = inverter.minW;
    this.lostAfterSteps = inverter.lostMeter ? Math.round(inverter.lostMeter.afterMs / stepMs) : Infinity;
    this.fallbackW = inverter.lostMeter?.fallbackW ?? 0;
  }

  /** At rest under a command, W. */
  settle(commandW: number): void {
    this.commandsW.fill(commandW);
    this.targetW = Math.min(this.availableW, commandW);
    this.outputW = this.targetW;
  }

  /** One step. @param silentSteps For how long its meter has been silent. @returns What it makes, W. */
  step(step: number, commandW: number, silentSteps: number, isGridOn: boolean): number {
    const { commandsW } = this;
    commandsW[step % commandsW.length] = silentSteps > this.lostAfterSteps ? this.fallbackW : commandW;
    const heardW = commandsW[(step + 1) % commandsW.length]!;
    const wantedW = Math.min(heardW, this.availableW, this.ratedW);
    const reachableW = wantedW < this.minW ? 0 : wantedW;
    this.targetW += Math.max(-this.rampW, Math.min(this.rampW, reachableW - this.targetW));
    // Sun that is gone cannot be delivered, whatever the ramp says.
    this.targetW = Math.min(this.targetW, this.availableW);
    if (this.isLost || !isGridOn) {
      this.targetW = 0;
      this.outputW = 0;
      return 0;
    }
    this.outputW += this.share * (this.targetW - this.outputW);
    return this.outputW;
  }
}
