import type { ExportLimitRequest } from "@/core/simulation/exportLimitSchema";
import { LagShare } from "@/core/simulation/feedIn/lag";
import { microseconds, Ticker } from "@/core/simulation/feedIn/late";
import type { Phase } from "@/core/phase";

/**
 * Another controller in time: a battery or diverter that takes or gives so that the grid comes to its own set-point.
 */
export class GridActor {
  private readonly phases: readonly number[];
  private readonly gain: number;
  private readonly setPointW: number;
  private readonly acting: Ticker;
  private readonly lag: LagShare;
  private targetW = 0;
  private powerW = 0;

  /** @param leastW What it gives at most, negative; 0 for one that only takes. */
  constructor(
    actor: NonNullable<ExportLimitRequest["battery"] | ExportLimitRequest["diverter"]>,
    private readonly leastW: number,
    private readonly mostW: number,
    phases: readonly Phase[],
  ) {
    this.phases = actor.phases.map((phase) => phases.indexOf(phase)).filter((phase) => phase >= 0);
    this.gain = (actor.gainPerS * actor.periodMs) / 1000;
    this.setPointW = actor.setPointW;
    this.acting = new Ticker(microseconds(actor.periodMs));
    this.lag = new LagShare(actor.tauMs);
  }

  /**
   * From a time on for so long: what it takes comes onto `netW`.
   *
   * @returns What it takes, W; negative where it gives.
   */
  step(us: number, lastsUs: number, seenW: Float64Array, netW: Float64Array, isGridOn: boolean): number {
    if (this.phases.length === 0) return 0;
    const isDue = this.acting.due(us);
    if (!isGridOn) {
      this.targetW = 0;
      this.powerW = 0;
      return 0;
    }
    if (isDue) {
      let sumW = 0;
      for (let phase = 0; phase < seenW.length; phase++) sumW += seenW[phase]!;
      const wantedW = this.targetW + this.gain * (this.setPointW - sumW);
      this.targetW = Math.min(this.mostW, Math.max(this.leastW, wantedW));
    }
    this.powerW += this.lag.of(lastsUs) * (this.targetW - this.powerW);
    const eachW = this.powerW / this.phases.length;
    for (const phase of this.phases) netW[phase] = netW[phase]! + eachW;
    return this.powerW;
  }
}
