import type { ExportLimitRequest } from "@/core/simulation/exportLimitSchema";
import { lagShare } from "@/core/simulation/feedIn/lag";
import type { Phase } from "@/core/phase";

/**
 * Another controller in steps: a battery or diverter that takes or gives so that the grid comes to its own set-point.
 */
export class GridActor {
  private readonly phases: readonly number[];
  private readonly gain: number;
  private readonly setPointW: number;
  private readonly every: number;
  private readonly share: number;
  private targetW = 0;
  private powerW = 0;

  /** @param leastW What it gives at most, negative; 0 for one that only takes. */
  constructor(
    actor: NonNullable<ExportLimitRequest["battery"] | ExportLimitRequest["diverter"]>,
    private readonly leastW: number,
    private readonly mostW: number,
    stepMs: number,
    phases: readonly Phase[],
  ) {
    this.phases = actor.phases.map((phase) => phases.indexOf(phase)).filter((phase) => phase >= 0);
    this.gain = (actor.gainPerS * actor.periodMs) / 1000;
    this.setPointW = actor.setPointW;
    this.every = Math.max(1, Math.round(actor.periodMs / stepMs));
    this.share = lagShare(actor.tauMs, stepMs);
  }

  /** One step: what it takes comes onto `netW`. @returns What it takes, W; negative where it gives. */
  step(step: number, seenW: Float64Array, netW: Float64Array, isGridOn: boolean): number {
    if (this.phases.length === 0) return 0;
    if (!isGridOn) {
      this.targetW = 0;
      this.powerW = 0;
      return 0;
    }
    if (step % this.every === 0) {
      let sumW = 0;
      for (let phase = 0; phase < seenW.length; phase++) sumW += seenW[phase]!;
      const wantedW = this.targetW + this.gain * (this.setPointW - sumW);
      this.targetW = Math.min(this.mostW, Math.max(this.leastW, wantedW));
    }
    this.powerW += this.share * (this.targetW - this.powerW);
    const eachW = this.powerW / this.phases.length;
    for (const phase of this.phases) netW[phase] = netW[phase]! + eachW;
    return this.powerW;
  }
}
