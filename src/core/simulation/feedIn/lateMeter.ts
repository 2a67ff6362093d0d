import type { ExportLimitRequest } from "@/core/simulation/exportLimitSchema";

/** A meter in steps: samples what flows on each phase, is off by its error, and is heard late or not at all. */
export class LateMeter {
  /** What the controllers believe of each phase, W. */
  readonly seenW: Float64Array;
  isLost = false;
  /** Steps since anything new was heard. */
  silentSteps = 0;
  private readonly sampledW: Float64Array;
  private readonly onTheWay: readonly Float64Array[];
  private readonly sampleEvery: number;
  private readonly factor: number;

  /** @param netW Of each phase, at rest before the first step. */
  constructor(meter: ExportLimitRequest["meter"], stepMs: number, netW: Float64Array) {
    this.factor = 1 + meter.errorPct / 100;
    this.sampleEvery = Math.max(1, Math.round(meter.samplePeriodMs / stepMs));
    this.sampledW = netW.map((watts) => watts * this.factor);
    this.seenW = this.sampledW.slice();
    const delaySteps = Math.max(0, Math.round(meter.delayMs / stepMs));
    this.onTheWay = Array.from({ length: delaySteps + 1 }, () => this.sampledW.slice());
  }

  step(step: number, netW: Float64Array): void {
    const { sampledW, onTheWay } = this;
    if (step % this.sampleEvery === 0 && step > 0)
      for (let phase = 0; phase < netW.length; phase++) sampledW[phase] = netW[phase]! * this.factor;
    onTheWay[step % onTheWay.length]!.set(sampledW);
    if (this.isLost) {
      this.silentSteps++;
      return;
    }
    this.silentSteps = 0;
    this.seenW.set(onTheWay[(step + 1) % onTheWay.length]!);
  }
}
