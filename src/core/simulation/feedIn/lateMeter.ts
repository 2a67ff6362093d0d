import type { ExportLimitRequest } from "@/core/simulation/exportLimitSchema";
import { Late, microseconds, Ticker } from "@/core/simulation/feedIn/late";

/** A meter in time: samples what flows on each phase, is off by its error, and is heard late or not at all. */
export class LateMeter {
  /** What the controllers believe of each phase, W. */
  seenW: Float64Array;
  /** Since when nothing new is heard, µs; undefined while it is. */
  lostUs: number | undefined;
  private readonly sampling: Ticker;
  private readonly onTheWay: Late<Float64Array>;
  private readonly factor: number;

  /** @param netW Of each phase, at rest before it begins. */
  constructor(meter: ExportLimitRequest["meter"], netW: Float64Array) {
    this.factor = 1 + meter.errorPct / 100;
    this.sampling = new Ticker(microseconds(meter.samplePeriodMs), false);
    this.seenW = netW.map((watts) => watts * this.factor);
    this.onTheWay = new Late(microseconds(meter.delayMs), this.seenW);
  }

  /** What flows now is sampled where it is time, and what was sampled is heard where it has come. */
  at(us: number, netW: Float64Array): void {
    if (this.sampling.due(us))
      this.onTheWay.send(
        us,
        netW.map((watts) => watts * this.factor),
      );
    const arrivedW = this.onTheWay.at(us);
    if (this.lostUs === undefined) this.seenW = arrivedW;
  }
}
